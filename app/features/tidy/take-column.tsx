import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import type { Film } from '@under-chalk/core/film/film';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import { divide } from '@under-chalk/core/film/moving';
import { errorText } from '@under-chalk/core/errors/errors';
import { canProcessAgain, isIncomplete } from '@under-chalk/core/lesson/incomplete-take';
import { ofMedium } from '@under-chalk/core/lesson/medium';
import { trackOf } from '@under-chalk/core/lesson/take';
import { hasBoth } from '@under-chalk/core/sound/ducking';
import { movedTo } from '@under-chalk/core/lesson/placement';
import { newId } from '../../capture/new-id';
import { useEdits } from '../../data/edits';
import { Button } from '../../ui/button';
import { useFocusWhen } from '../../ui/focus';
import { Menu } from '../../ui/menu';
import { Notice } from '../../ui/notice';
import { Loading } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { VirtualList } from '../../ui/virtual-list';
import { ProcessAgainButton } from '../record/process-again-button';
import { PhraseRow } from './phrase-row';
import { CameraPanel, hasCamera } from './camera-panel';
import { canCrop, CropPanel } from './crop-panel';
import { ExcludedRow } from './excluded-row';
import { NoiseReductionPanel } from './noise-reduction-panel';
import { DuckingPanel } from './ducking-panel';
import { useTidy, useTidying } from './tidying';
import { rowAt, type Column } from './use-columns';

/** Height of a row as it mostly is, px. */
const LIKELY_HEIGHT = 78;
/** The least that is left of a take by one press, µs: what would leave nothing is no trim. */
const LEAST_LEFT_US = 200_000;

interface Props {
  readonly lesson: Lesson;
  readonly film: Film;
  readonly column: Column;
  /** Places of its neighbours that can be seen, in the order of the film; null where it has none. */
  readonly upTo: number | null;
  readonly downTo: number | null;
  /** Height of the picture that stays above the column, px. */
  readonly covered: number;
}

/** What of a whole take is being changed. */
type Changing = 'part' | 'camera' | 'under-voice' | 'room';

/** One take as a column of phrases, with what was left out folded to thin lines. */
export const TakeColumn = (props: Props) => {
  const { lesson, film, column, covered } = props;
  const { placed, take, name, rows, line } = column;
  const [changing, setChanging] = useState<Changing | null>(null);
  // Where the picture stands, and what a press has asked to be shown.
  const shown = useTidy(({ here, wish, open, playing }) => {
    // What was opened by hand is in sight already, and may be taller than the page.
    const place = wish ?? (open && !playing ? null : here);
    return rows && place && place.placementId === placed.id ? rowAt(rows, place.takeUs) : null;
  });
  return (
    <View style={styles.column}>
      <View style={styles.head}>
        <TakeHeading name={name} placementId={placed.id} />
        {rows ? <TakeTools {...props} onChange={setChanging} /> : null}
      </View>
      {isIncomplete(take) ? (
        <Notice
          tone="warn"
          title={`A part of ${name.toLocaleLowerCase()} is missing.`}
          text={errorText(take.problem!).message}
        >
          {canProcessAgain(take) ? (
            <ProcessAgainButton take={take} name={name} doing="processTake" />
          ) : null}
        </Notice>
      ) : null}
      {rows ? (
        <>
          {changing === 'part' ? (
            <CropPanel lesson={lesson} take={take} onDone={() => setChanging(null)} />
          ) : null}
          {changing === 'under-voice' ? (
            <DuckingPanel lesson={lesson} onDone={() => setChanging(null)} />
          ) : null}
          {changing === 'room' ? (
            <NoiseReductionPanel
              {...{ lesson, take, line }}
              placementId={placed.id}
              onDone={() => setChanging(null)}
            />
          ) : null}
          {changing === 'camera' ? (
            <CameraPanel lesson={lesson} take={take} onDone={() => setChanging(null)} />
          ) : null}
          <VirtualList
            label={`Phrases of ${name.toLocaleLowerCase()}`}
            count={rows.length}
            keyOf={(index) => `${rows[index]!.kind} ${rows[index]!.startUs}`}
            likelyHeight={LIKELY_HEIGHT}
            covered={covered}
            shown={shown}
            row={(index) => {
              const row = rows[index]!;
              return row.kind === 'left-out' ? (
                <ExcludedRow film={film} placed={placed} row={row} />
              ) : (
                <PhraseRow
                  film={film}
                  take={take}
                  placementId={placed.id}
                  rows={rows}
                  index={index}
                  line={line}
                />
              );
            }}
          />
        </>
      ) : take.state === 'recording' ? (
        <Words tone="soft">This take is still being recorded.</Words>
      ) : (
        <Loading what={`${name.toLocaleLowerCase()}; it is being made ready`} />
      )}
    </View>
  );
};

const TakeHeading = ({ name, placementId }: { name: string; placementId: string }) => {
  const moved = useTidy((view) => view.moved === placementId);
  const heading = useFocusWhen(moved);
  return (
    <View ref={heading} tabIndex={-1} style={styles.heading}>
      <Heading level={2}>{name}</Heading>
    </View>
  );
};

interface ToolsProps extends Props {
  readonly onChange: (what: Changing) => void;
}

/** What can be done with a whole take: its ends, and its place among the others. */
const TakeTools = ({ lesson, film, column, upTo, downTo, onChange }: ToolsProps) => {
  const { put } = useEdits();
  const tidying = useTidying();
  const { placed, take, name } = column;
  const hereUs = useTidy(({ here }) => (here?.placementId === placed.id ? here.takeUs : null));
  const { id: placementId, startUs } = placed;
  const endUs = Math.min(placed.endUs ?? take.durationUs, take.durationUs);
  const trim = (from: number, to: number | null, leftUs: number) => {
    put({ do: 'trim', placementId, startUs: from, endUs: to });
    tidying.wishFocus({ placementId, takeId: take.id, takeUs: leftUs });
  };
  const move = (to: number) => {
    put({ do: 'place', placement: movedTo(placed, film.placed, to), arrives: false });
    tidying.moved(placementId);
  };
  const levelled = !lesson.decisions.unlevelled.includes(take.id);
  const inside = hereUs !== null && hereUs > startUs && hereUs < endUs;
  const halve = () => {
    const edits = divide(lesson, { placementId, takeUs: hereUs! }, newId);
    put(...edits);
    const part = edits.find((edit) => edit.do === 'place');
    if (part?.do === 'place') tidying.moved(part.placement.id);
  };
  const canBegin = hereUs !== null && hereUs > startUs && endUs - hereUs >= LEAST_LEFT_US;
  const canEnd = hereUs !== null && hereUs - startUs >= LEAST_LEFT_US && hereUs < endUs;
  return (
    <View style={styles.tools}>
      <Button
        small
        label="Begin here"
        spoken="Begin at the place shown"
        // Where there is nothing to trim, nobody has to go past it.
        skipped={!canBegin}
        disabled={!canBegin}
        onPress={() => trim(Math.round(hereUs!), placed.endUs, hereUs! / 2)}
      />
      <Button
        small
        label="End here"
        spoken="End at the place shown"
        skipped={!canEnd}
        disabled={!canEnd}
        onPress={() => trim(startUs, Math.round(hereUs!), (hereUs! + take.durationUs) / 2)}
      />
      <Menu
        of={name}
        items={[
          ...(upTo === null ? [] : [{ label: 'Move up', onPress: () => move(upTo) }]),
          ...(downTo === null ? [] : [{ label: 'Move down', onPress: () => move(downTo) }]),
          ...(inside ? [{ label: 'Divide here', onPress: halve }] : []),
          ...(canCrop(take)
            ? [{ label: 'Show only a part', onPress: () => onChange('part') }]
            : []),
          ...(hasCamera(take)
            ? [{ label: 'The camera, differently', onPress: () => onChange('camera') }]
            : []),
          ...(hasBoth(take)
            ? [{ label: 'Computer sound under voice', onPress: () => onChange('under-voice') }]
            : []),
          ...(trackOf(take, 'voice')
            ? [{ label: 'Background noise', onPress: () => onChange('room') }]
            : []),
          ...(ofMedium(take.tracks, 'sound').length > 0
            ? [
                {
                  label: levelled ? 'As loud as it was recorded' : 'As loud as the others',
                  onPress: () => put({ do: 'set-levelling', takeId: take.id, levelled: !levelled }),
                },
              ]
            : []),
        ]}
      />
    </View>
  );
};

const styles = StyleSheet.create({
  column: { gap: SPACE.small },
  // Its menu lies over the rows below.
  head: {
    flexDirection: 'row',
    flexWrap: 'wrap',
    alignItems: 'center',
    justifyContent: 'space-between',
    gap: SPACE.small,
    zIndex: 1,
  },
  heading: { alignSelf: 'center' },
  tools: {
    flexDirection: 'row',
    flexWrap: 'wrap',
    flexShrink: 1,
    gap: SPACE.hair,
    alignItems: 'center',
  },
});
