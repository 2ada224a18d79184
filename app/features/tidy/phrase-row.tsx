import { middleOf } from '@under-chalk/core/time/ranges';
import { memo } from 'react';
import { Pressable, StyleSheet, View } from 'react-native';
import type { ColumnRow } from '@under-chalk/core/film/column';
import { filmTimeFrom, type Film } from '@under-chalk/core/film/film';
import { layoutAt, closeUpAt } from '@under-chalk/core/film/sections';
import { speedInWords } from '@under-chalk/core/lesson/speed';
import type { Take } from '@under-chalk/core/lesson/take';
import type { LevelLine } from '@under-chalk/core/sound/level-line';
import { dbInWords } from '@under-chalk/core/sound/gains';
import { at } from '@under-chalk/core/time/timeline';
import { wordsSaid } from '@under-chalk/core/words/strike';
import { formatTenths } from '@under-chalk/core/time/us';
import { LAYOUT_NAMES } from '@under-chalk/core/lesson/layout';
import { Button } from '../../ui/button';
import { Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';
import { Wave } from '../../ui/wave';
import { stillPath } from '../lessons/still-path';
import { LayoutPanel } from './layout-panel';
import { ChosenRun } from './chosen-run';
import { CloseUpPanel } from './close-up-panel';
import { CutawayPanel } from './cutaway-panel';
import { CutPanel } from './cut-panel';
import { TextOverlayPanel } from './text-overlay-panel';
import { InteractionPanel } from './interaction-panel';
import { secondsOf } from './open-stretch';
import { SoundPanel } from './sound-panel';
import { SpeedPanel } from './speed-panel';
import { useTidy, useTidying, useWishedFocus } from './tidying';
import { RowPicture } from './row-picture';
import { useCut } from './use-cut';
import { WordsPanel } from './words-panel';

interface Props {
  readonly film: Film;
  readonly take: Take;
  /** The place in the film whose column it stands in. */
  readonly placementId: string;
  /** All rows of the column, and which of them this is. */
  readonly rows: readonly ColumnRow[];
  readonly index: number;
  readonly line: LevelLine | null;
}

/** One phrase: its picture, its sound, how long it is; opened, what can be done to it. */
export const PhraseRow = memo(function PhraseRow({
  film,
  take,
  placementId,
  rows,
  index,
  line,
}: Props) {
  const theme = useTheme();
  const cut = useCut();
  const { lesson } = film;
  const row = rows[index]!;
  const number = index + 1;
  const { startUs, endUs } = row;
  const tidying = useTidying();
  const here = useTidy(
    ({ here: place }) =>
      place?.placementId === placementId && place.takeUs >= startUs && place.takeUs < endUs,
  );
  const run = useTidy(({ open }) =>
    open?.placementId === placementId && open.opened.startUs === startUs ? open : null,
  );
  const opened = run !== null;
  const chosen = useTidy(
    ({ open }) => open?.placementId === placementId && open.startUs < endUs && open.endUs > startUs,
  );
  const carrying = useTidy(({ carried }) => carried !== null);
  const press = (shift: boolean) => {
    // What is in hand is put before the phrase that is pressed.
    if (carrying) return tidying.show(stretch);
    return shift ? tidying.reach(stretch) : tidying.open(opened ? null : stretch);
  };
  const opener = useWishedFocus(placementId, startUs, endUs);
  const filmAt = (takeUs: number) =>
    formatTenths(filmTimeFrom(film, { takeId: take.id, placementId, takeUs }));
  const stretch = { takeId: take.id, placementId, startUs, endUs };
  const middleUs = middleOf(row);
  const seconds = secondsOf(row);
  const quiet = row.kind === 'phrase' && row.phrase.kind === 'quiet';
  const pictured = take.tracks.some((track) => track.widthPx > 0);
  const layout = layoutAt(lesson, take, middleUs);
  const flubs = lesson.decisions.flubs.filter(
    (flub) => flub.takeId === take.id && flub.atUs >= startUs && flub.atUs < endUs,
  );
  const closeUp = closeUpAt(lesson, take, middleUs);
  const cutaway = at(lesson.decisions.cutaways, take.id, middleUs);
  const over = at(lesson.decisions.textOverlays, take.id, middleUs)?.textOverlay;
  const silent = at(lesson.decisions.muted, take.id, middleUs);
  const speed = at(lesson.decisions.speeds, take.id, middleUs)?.speed;
  const said = wordsSaid(lesson.decisions, take.id, row)
    .map(({ text }) => text)
    .join(' ');
  const signs = [
    ...(speed ? [speedInWords(speed)] : []),
    ...(silent ? ['silent'] : []),
    ...(at(lesson.decisions.voiceOvers, take.id, middleUs) ? ['spoken anew'] : []),
    ...(['voice', 'computer-sound'] as const).flatMap((kind) => {
      const level = at(lesson.decisions.gains[kind], take.id, middleUs);
      const what = kind === 'voice' ? 'voice' : 'computer';
      return level && !silent ? [`${what} ${dbInWords(level.db)}`] : [];
    }),
    ...(closeUp ? ['seen closer'] : []),
    ...(cutaway ? ['something else shown'] : []),
    ...(over ? [`“${over.text}” over it`] : []),
  ];
  /** The phrase nearest to a row, that one included, in a direction. */
  const phraseFrom = (at: number, by: 1 | -1) => {
    for (let to = at; rows[to]; to += by) if (rows[to]!.kind === 'phrase') return rows[to]!;
    return null;
  };
  const above = phraseFrom(index - 1, -1);
  /** Arrows go from phrase to phrase, Home and End to the first and the last; with Shift the arrows choose one phrase more. */
  const keyed = (event: { key: string; shiftKey: boolean; preventDefault(): void }) => {
    const towards: Record<string, () => ColumnRow | null> = {
      ArrowDown: () => phraseFrom(index + 1, 1),
      ArrowUp: () => above,
      Home: () => phraseFrom(0, 1),
      End: () => phraseFrom(rows.length - 1, -1),
    };
    const next = towards[event.key]?.();
    if (!next) return;
    event.preventDefault();
    if (event.shiftKey && event.key.startsWith('Arrow')) {
      if (!chosen) tidying.open(stretch);
      tidying.reach({ ...stretch, startUs: next.startUs, endUs: next.endUs });
    }
    tidying.wishFocus({ placementId, takeId: take.id, takeUs: middleOf(next) });
  };
  const name = quiet ? 'quiet' : LAYOUT_NAMES[layout.kind];
  return (
    <View
      style={[
        styles.row,
        {
          backgroundColor: theme.card,
          borderColor: here || chosen ? theme.action : theme.line,
          borderLeftWidth: here ? 6 : 1.5,
        },
      ]}
    >
      <View style={styles.line}>
        <Pressable
          ref={opener}
          role="button"
          aria-expanded={opened}
          aria-label={`Phrase ${number}, at ${filmAt(startUs)}, ${seconds} seconds, ${[name, ...signs].join(', ')}${flubs.length > 0 ? ', flub marked' : ''}${chosen && !opened ? ', chosen' : ''}${said ? `: ${said}` : ''}. ${carrying ? 'Put what is in hand before it' : opened ? 'Close' : 'Open'}`}
          onPress={(event) => press((event.nativeEvent as unknown as MouseEvent).shiftKey)}
          onLongPress={() => tidying.reach(stretch)}
          {...({ onKeyDown: keyed } as object)}
          style={styles.open}
        >
          {pictured ? (
            <RowPicture
              uri={stillPath(lesson, take, middleUs)}
              before={opened || !above ? null : stillPath(lesson, take, middleOf(above))}
            />
          ) : null}
          <View style={styles.middle}>
            {said ? (
              <Words numberOfLines={opened ? 1 : 3}>{said}</Words>
            ) : line ? (
              <Wave line={line} startUs={startUs} endUs={endUs} />
            ) : null}
            <Words size="small" tone="soft">
              {[filmAt(startUs), `${seconds} s`, name, ...signs].join(' · ')}
            </Words>
            {flubs.length > 0 ? (
              <Words size="small" tone="warn">
                {`flub marked at ${flubs.map((flub) => filmAt(flub.atUs)).join(', ')}`}
              </Words>
            ) : null}
          </View>
        </Pressable>
        <Button
          small
          label="Cut"
          spoken={`Cut phrase ${number}, ${seconds} seconds`}
          onPress={() => cut(stretch)}
        />
      </View>
      {run ? (
        <View style={styles.panels}>
          <WordsPanel film={film} chosen={run} line={line} />
          <ChosenRun rows={rows} chosen={run} />
          <CutPanel
            film={film}
            stretch={run}
            durationUs={take.durationUs}
            line={line}
            onPlay={() => tidying.play(run)}
          />
          <LayoutPanel lesson={lesson} take={take} stretch={run} />
          <View style={styles.shown}>
            <CloseUpPanel film={film} take={take} stretch={run} />
            <CutawayPanel film={film} take={take} stretch={run} />
            <SpeedPanel film={film} stretch={run} />
            <SoundPanel film={film} take={take} stretch={run} />
            <TextOverlayPanel key={`words ${run.startUs} ${run.endUs}`} film={film} stretch={run} />
            <InteractionPanel film={film} stretch={run} />
          </View>
        </View>
      ) : null}
    </View>
  );
});

const styles = StyleSheet.create({
  row: { borderWidth: 1.5, borderRadius: RADIUS.medium, padding: SPACE.small, gap: SPACE.medium },
  line: { flexDirection: 'row', alignItems: 'center', gap: SPACE.small },
  open: {
    flexGrow: 1,
    flexShrink: 1,
    flexDirection: 'row',
    alignItems: 'center',
    gap: SPACE.small,
    minHeight: 56,
  },
  middle: { flexGrow: 1, flexShrink: 1, flexBasis: 0 },
  shown: { gap: SPACE.small },
  panels: { gap: SPACE.large, paddingBottom: SPACE.small },
});
