import { lazy, Suspense, useEffect, useState } from 'react';
import { StyleSheet, View } from 'react-native';
import type { Watch } from '@under-chalk/core/contract/watch';
import { formatClock } from '@under-chalk/core/time/us';
import { ChapterList } from '../../player/chapter-list';
import { useText } from '../../messages/use-text';
import { Button } from '../../ui/button';
import { useLayout } from '../../ui/layout';
import { ProblemNotice } from '../../ui/notice';
import { Words } from '../../ui/text';
import { LightsDownContext, RADIUS, SPACE } from '../../ui/theme';
import { CaptionsChoice, CaptionTracks, useCaptionsShown } from './captions-choice';
import { DescribedChoice, DescribedNow } from './described-parts';
import { useDescribed, useHowTold } from './use-described';
import { Transcript } from './transcript';
import { InteractionList } from './interaction-list';
import { useAnswers } from './use-answers';
import { useInteractions } from './use-interactions';
import { keepPlace, keptPlace } from './kept-place';
import { PlayerBar } from './player-bar';
import { useToldPlayed } from './use-told-played';
import { usePlayer } from './use-player';
import { coverPath, fetchTicket, filmPath, playlistPath, previewsPath } from './watch-data';

/** What is typed into comes by itself: who waits for a film on a slow line doesn't wait for it, and it is there before the line goes. */
const fetchCard = () =>
  import('./interaction-card').then(({ InteractionCard: card }) => ({ default: card }));
const InteractionCard = lazy(fetchCard);
const FETCH_CARD_MS = 6_000;

/** What stands above and below the picture, px. */
const ROUND = 260;
const ROUND_LOW = 130;
/** In a frame that is as high as its picture: the bar is scrolled to where it has no room. */
const ROUND_ALONE = 104;

/** From where it plays, where a link says so (`?t=` and seconds), s; null: it doesn't. */
const fromTime = (): number | null => {
  const seconds = new URLSearchParams(location.search).get('t');
  return seconds !== null && /^\d{1,6}(\.\d{1,3})?$/.test(seconds) ? Number(seconds) : null;
};

interface Props {
  readonly token: string;
  readonly watch: Watch;
  /** It is all there is to be seen: in a page of another site. */
  readonly alone?: boolean;
}

/** How often it is kept where one is in it, s. */
const KEEP_S = 5;

/** A film that is handed out, with what is needed to watch it; its chapters beside it where there is room. */
export const WatchedFilm = ({ token, watch, alone = false }: Props) => {
  const { title, filmUs, chapters, languages, spoken } = watch;
  const { t } = useText();
  const [link] = useState(fromTime);
  const [kept] = useState(() => (link === null ? keptPlace(token, filmUs / 1e6) : 0));
  const fromS = link ?? kept;
  const captions = useCaptionsShown(languages);
  const howTold = useHowTold(watch.described, spoken);
  const isDescribed = watch.described.length > 0;
  const player = usePlayer({
    switchCaptions: languages.length > 0 ? captions.toggle : null,
    switchDescribed: isDescribed ? howTold.toggle : null,
    playlist: watch.stream === null ? null : playlistPath(token, watch.stream),
    giveTicket: () => fetchTicket(token, watch.stream ?? ''),
    file: filmPath(token, watch.stream),
    fromS,
  });
  const described = useDescribed(player.video, watch.described, howTold);
  useToldPlayed(player.video, token, watch.stream);
  const answers = useAnswers(token, watch.stream, watch.named);
  const isAnswered = (id: string) => answers.given[id] !== undefined;
  const at = useInteractions(player.video, watch.interactions, isAnswered, player.seek);
  const sheetPath =
    watch.stream === null || watch.state !== 'done' ? null : previewsPath(token, watch.stream);
  const { atS, playing } = player;
  // Every few seconds, and where it is paused.
  const toKeep = playing ? Math.floor(atS / KEEP_S) * KEEP_S : Math.floor(atS);
  useEffect(() => {
    if (toKeep > 0) keepPlace(token, toKeep);
  }, [token, toKeep]);
  const asks = watch.interactions.length > 0;
  useEffect(() => {
    if (!asks) return;
    const timer = setTimeout(() => void fetchCard().catch(() => undefined), FETCH_CARD_MS);
    return () => clearTimeout(timer);
  }, [asks]);
  const { beside, low, height } = useLayout();
  const { video, box, full, failed, aspect, events } = player;
  const columns = beside && chapters.length > 0 && !alone;
  const shape = aspect ?? watch.aspect;
  const widest = Math.max(200, height - (alone ? ROUND_ALONE : low ? ROUND_LOW : ROUND)) * shape;
  const watched = (
    <View style={columns ? styles.columns : styles.stack}>
      <View style={columns ? styles.film : null}>
        <div
          ref={box}
          style={{
            maxWidth: full ? undefined : widest,
            width: '100%',
            display: 'flex',
            flexDirection: 'column',
            background: full ? '#1c252b' : undefined,
          }}
        >
          <LightsDownContext.Provider value={full}>
            <video
              ref={video}
              {...(player.src === null ? {} : { src: player.src })}
              poster={coverPath(token)}
              preload="none"
              playsInline
              aria-label={title}
              onClick={player.toggle}
              {...events}
              style={{
                width: '100%',
                display: 'block',
                borderRadius: full ? 0 : RADIUS.small,
                background: '#20292f',
                ...(full
                  ? { flex: 1, minHeight: 0, objectFit: 'contain' }
                  : { aspectRatio: String(shape) }),
              }}
            >
              <CaptionTracks video={video} token={token} languages={languages} shown={captions} />
            </video>
            {at.now ? (
              <Suspense fallback={null}>
                <InteractionCard
                  key={at.now.id}
                  interaction={at.now}
                  answers={answers}
                  onLeave={at.leave}
                />
              </Suspense>
            ) : null}
            <DescribedNow how={howTold.how} described={described} />
            {failed ? (
              <ProblemNotice code="server-unreachable">
                <Button label={t('common.tryAgain')} onPress={player.again} />
              </ProblemNotice>
            ) : null}
            {kept > 0 && !playing && atS === kept ? (
              <View style={styles.again}>
                <Words size="small">{t('player.resumed', { time: formatClock(kept * 1e6) })}</Words>
                <Button small label={t('player.restart')} onPress={() => player.seek(0)} />
              </View>
            ) : null}
            <PlayerBar
              {...{ player, filmUs, aspect: watch.aspect, sheetPath }}
              captions={languages.length > 0}
              described={isDescribed}
            >
              {languages.length > 0 ? (
                <CaptionsChoice languages={languages} shown={captions} />
              ) : null}
              {isDescribed ? <DescribedChoice howTold={howTold} /> : null}
            </PlayerBar>
          </LightsDownContext.Provider>
        </div>
      </View>
      {alone ? null : (
        <View style={columns ? styles.side : null}>
          <ChapterList
            chapters={chapters}
            atUs={player.atS * 1e6}
            onGo={(startUs) => player.seek(startUs / 1e6)}
          />
        </View>
      )}
    </View>
  );
  return (
    <>
      {watched}
      {watch.interactions.length > 0 && !alone ? (
        <InteractionList interactions={watch.interactions} answers={answers} onOpen={at.open} />
      ) : null}
      {languages.length > 0 && !alone ? (
        <Transcript
          token={token}
          languages={languages}
          chapters={chapters}
          described={watch.described}
          spoken={spoken}
          atUs={atS * 1e6}
          onGo={(us) => player.seek(us / 1e6)}
        />
      ) : null}
    </>
  );
};

const styles = StyleSheet.create({
  stack: { gap: SPACE.medium },
  columns: { flexDirection: 'row', gap: SPACE.wide, alignItems: 'flex-start' },
  film: { flexGrow: 1, flexShrink: 1, flexBasis: 0 },
  side: { width: 300 },
  again: { flexDirection: 'row', flexWrap: 'wrap', alignItems: 'center', gap: SPACE.small },
});
