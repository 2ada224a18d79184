import type { ReactNode } from 'react';
import { StyleSheet, View } from 'react-native';
import type { Chapter } from '@under-chalk/core/film/chapters';
import { formatClock, type Us } from '@under-chalk/core/time/us';
import { ChapterList } from '../../player/chapter-list';
import { SeekSlider } from '../../player/seek-slider';
import { Button } from '../../ui/button';
import { Choices } from '../../ui/choices';
import { useLayout } from '../../ui/layout';
import { ProblemNotice } from '../../ui/notice';
import { Words } from '../../ui/text';
import { LightsDownContext, RADIUS, SPACE, useTheme } from '../../ui/theme';
import { CaptionsChoice, CaptionTracks, useCaptionsShown } from './captions-choice';
import { Transcript } from './transcript';
import { usePlayer, type Player } from './use-player';
import { coverPath, filmPath } from './watch-data';

const SPEEDS = ['0.75', '1', '1.25', '1.5', '2'];
const USUAL_ASPECT = 16 / 9;
/** What stands above and below the picture, px. */
const ROUND = 250;
const ROUND_LOW = 130;

/** From where it plays, where a link says so (`?t=` and seconds): a media fragment (W3C Media Fragments URI 1.0, §4.2.1). */
const fromTime = (): string => {
  const seconds = new URLSearchParams(location.search).get('t');
  return seconds !== null && /^\d{1,6}(\.\d{1,3})?$/.test(seconds) ? `#t=${seconds}` : '';
};

interface Props {
  readonly token: string;
  readonly title: string;
  readonly filmUs: Us;
  readonly chapters: readonly Chapter[];
  /** Languages that there are captions in. */
  readonly languages: readonly string[];
}

/** A film that is handed out, with what is needed to watch it; its chapters beside it where there is room. */
export const WatchedFilm = ({ token, title, filmUs, chapters, languages }: Props) => {
  const captions = useCaptionsShown(languages);
  const player = usePlayer(languages.length > 0 ? captions.toggle : null);
  const { beside, low, height } = useLayout();
  const { video, box, full, failed, aspect, events } = player;
  const columns = beside && chapters.length > 0;
  const shape = aspect ?? USUAL_ASPECT;
  const widest = Math.max(200, height - (low ? ROUND_LOW : ROUND)) * shape;
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
              src={filmPath(token) + fromTime()}
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
            {failed ? (
              <ProblemNotice code="server-unreachable">
                <Button label="Try again" onPress={player.again} />
              </ProblemNotice>
            ) : null}
            <PlayerBar player={player} filmUs={filmUs}>
              {languages.length > 0 ? (
                <CaptionsChoice languages={languages} shown={captions} />
              ) : null}
            </PlayerBar>
          </LightsDownContext.Provider>
        </div>
      </View>
      <View style={columns ? styles.side : null}>
        <ChapterList
          chapters={chapters}
          atUs={player.atS * 1e6}
          onGo={(startUs) => player.seek(startUs / 1e6)}
        />
      </View>
    </View>
  );
  return (
    <>
      {watched}
      {languages.length > 0 ? (
        <Transcript
          token={token}
          languages={languages}
          chapters={chapters}
          onGo={(us) => player.seek(us / 1e6)}
        />
      ) : null}
    </>
  );
};

/** Play, the place in the film, the speed, the whole screen: the same when it fills the screen. */
const PlayerBar = ({
  player,
  filmUs,
  children,
}: {
  player: Player;
  filmUs: Us;
  /** What else is chosen about it. */
  children: ReactNode;
}) => {
  const theme = useTheme();
  const { playing, waiting, full, atS, speed } = player;
  return (
    <View
      style={[styles.bar, full ? { backgroundColor: theme.paper, padding: SPACE.small } : null]}
    >
      <View style={styles.line}>
        <Button kind="main" label={playing ? 'Pause' : 'Play'} onPress={player.toggle} />
        <View style={styles.slider}>
          <SeekSlider
            label="Place in the film"
            valueUs={Math.round(atS * 1e6)}
            mostUs={filmUs}
            onSeek={(us) => player.seek(us / 1e6)}
          />
        </View>
        <Words size="small" style={styles.clock}>
          {`${formatClock(atS * 1e6)} / ${formatClock(filmUs)}`}
        </Words>
      </View>
      <View role="status" style={waiting ? null : styles.nothing}>
        {waiting ? <Words size="small">Waiting for the film…</Words> : null}
      </View>
      <View style={styles.line}>
        <View style={styles.speeds}>
          <Choices
            label="Speed"
            hideLabel
            segments
            choices={SPEEDS.map((value) => ({ value, label: `${value}×` }))}
            value={speed}
            onChoose={player.setSpeed}
          />
        </View>
        <Button label={full ? 'Leave the full screen' : 'Fill the screen'} onPress={player.fill} />
      </View>
      {children}
      <Words size="small" tone="soft">
        Keys: Space plays and pauses, ← and → go five seconds, F fills the screen
        {children ? ', C switches captions' : ''}.
      </Words>
    </View>
  );
};

const styles = StyleSheet.create({
  stack: { gap: SPACE.medium },
  columns: { flexDirection: 'row', gap: SPACE.wide, alignItems: 'flex-start' },
  film: { flexGrow: 1, flexShrink: 1, flexBasis: 0 },
  side: { width: 300 },
  bar: { gap: SPACE.small, paddingTop: SPACE.small },
  line: { flexDirection: 'row', flexWrap: 'wrap', alignItems: 'center', gap: SPACE.small },
  slider: { flexGrow: 1, flexBasis: 120 },
  speeds: { flexGrow: 1, flexBasis: 240, maxWidth: 420 },
  clock: { fontVariant: ['tabular-nums'] },
  nothing: { height: 0 },
});
