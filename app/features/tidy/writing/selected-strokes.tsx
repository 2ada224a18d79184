import { useEffect, useRef } from 'react';
import { StyleSheet, View } from 'react-native';
import {
  filmTimeFrom,
  recordedAt,
  type Film,
  type RecordedPlace,
} from '@under-chalk/core/film/film';
import type { InkChange } from '@under-chalk/core/ink/change';
import type { InkTrack, Stroke } from '@under-chalk/core/ink/ink-track';
import { pageAt } from '@under-chalk/core/ink/ink-track';
import type { Staying } from '@under-chalk/core/ink/pen';
import type { Edit } from '@under-chalk/core/edit/edit';
import { formatTenths, parseClock } from '@under-chalk/core/time/us';
import { useEdits } from '../../../data/edits';
import { usePart } from '../../../data/live-value';
import { Button } from '../../../ui/button';
import { ChoiceLine } from '../../../ui/choice-line';
import { Choices } from '../../../ui/choices';
import { Stepper } from '../../../ui/stepper';
import { focusOn } from '../../../ui/focus';
import { Words } from '../../../ui/text';
import { SPACE } from '../../../ui/theme';
import { TIMES, WIDTHS } from '../../board/live-board';
import { coloursOn } from '../../board/pen-choices';
import { choiceOf, STAYING_CHOICES, stayingOf, stayingWords } from '../../board/staying-choice';
import type { FilmWriting } from './film-writing';

const WIDTH_NAMES = Object.keys(WIDTHS) as (keyof typeof WIDTHS)[];
const STEP_US = 100_000;

/** The one value that all have; null where they differ. */
const common = <T,>(values: readonly T[]): T | null =>
  values.every((value) => value === values[0]) ? (values[0] ?? null) : null;

const widthOf = ({ pen }: Stroke) =>
  WIDTH_NAMES.find((name) => Math.abs(WIDTHS[name] * (TIMES[pen.tool] ?? 1) - pen.width) < 1e-4);

interface Props {
  readonly film: Film;
  readonly writing: FilmWriting;
  readonly track: InkTrack;
  readonly place: RecordedPlace;
  /** How often something was selected elsewhere than in the picture: the focus comes here then. */
  readonly asked: number;
}

/** What is selected of the writing, and all that can be changed about it. */
export const SelectedStrokes = ({ film, writing, track, place, asked }: Props) => {
  const first = useRef<View>(null);
  useEffect(() => {
    if (asked > 0) focusOn(first.current);
  }, [asked]);
  const { board } = writing;
  const { put } = useEdits();
  const count = usePart(board, (view) => view.selected);
  const ids = new Set(board.selected().map(({ stroke }) => stroke.id));
  const strokes = track.strokes.filter(({ id }) => ids.has(id));
  const { takeId, takeUs } = place;
  const { shade } = pageAt(track, takeUs).paper;
  const edit = (of: readonly Stroke[], change: InkChange): Edit => ({
    ...{ do: 'change-ink', takeId, strokes: of.map(({ id }) => id) },
    change,
  });
  const change = (how: InkChange) => put(edit(strokes, how));
  if (strokes.length === 0) return null;
  const stays = common(strokes.map(({ pen }) => pen.stays));
  const beganUs = Math.min(...strokes.map((stroke) => stroke.beganUs));
  const filmOf = (us: number) => filmTimeFrom(film, { ...place, takeUs: us });
  const known = new Map(
    film.lesson.decisions.inkChanges.flatMap((one) =>
      one.takeId === takeId ? [[one.strokeId, one.change]] : [],
    ),
  );
  /** All of them so much later: those that were moved by the same before, in one edit. */
  const later = (byUs: number) => {
    const together = new Map<number, Stroke[]>();
    for (const stroke of strokes) {
      const us = Math.round((known.get(stroke.id)?.laterUs ?? 0) + byUs);
      together.set(us, [...(together.get(us) ?? []), stroke]);
    }
    put(...[...together].map(([laterUs, of]) => edit(of, { laterUs })));
  };
  const durationUs = film.lesson.takes.find(({ id }) => id === takeId)?.durationUs ?? beganUs;
  const ends = strokes.map(({ wiped }) => wiped.find(({ toUs }) => toUs === Infinity)?.fromUs);
  const times = [
    {
      label: 'Drawn from',
      valueUs: beganUs,
      leastUs: 0,
      set: (us: number) => later(us - beganUs),
    },
    {
      label: 'There until',
      // What nothing wipes is there to the end.
      valueUs: Math.min(durationUs, common(ends) ?? durationUs),
      leastUs: Math.min(durationUs, beganUs + STEP_US),
      set: (us: number) => change({ untilUs: us }),
    },
  ];
  const widen = (name: keyof typeof WIDTHS) => {
    const together = new Map<number, Stroke[]>();
    for (const stroke of strokes) {
      const width = WIDTHS[name] * (TIMES[stroke.pen.tool] ?? 1);
      together.set(width, [...(together.get(width) ?? []), stroke]);
    }
    put(...[...together].map(([width, of]) => edit(of, { width })));
  };
  return (
    <View role="group" aria-label="Selected" style={styles.group}>
      <View style={styles.line}>
        <Words strong style={styles.grow}>
          {count === 1 ? 'One stroke selected' : `${count} strokes selected`}
        </Words>
        <Button ref={first} small label="Select none" onPress={() => board.select([])} />
        <Button
          small
          kind="grave"
          label="Take away"
          spoken="Take away what is selected"
          onPress={() => change({ gone: true })}
        />
      </View>
      <Choices
        label="Its colour"
        segments
        choices={coloursOn(shade)}
        value={common(strokes.map(({ pen }) => pen.colour))}
        onChoose={(colour) => change({ colour })}
      />
      <Choices
        label="Its width"
        segments
        choices={WIDTH_NAMES.map((value) => ({ value, label: value }))}
        value={common(strokes.map(widthOf)) ?? null}
        onChoose={widen}
      />
      <ChoiceLine label="It stays" value={stays === null ? 'differently' : stayingWords(stays)}>
        <Choices
          label="It stays"
          hideLabel
          stacked
          choices={STAYING_CHOICES}
          value={stays === null ? null : choiceOf(stays)}
          onChoose={(chosen) => {
            const staying: Staying = stayingOf(chosen);
            change(staying === 'wiped' ? { stays: staying } : { stays: staying, untilUs: null });
          }}
        />
      </ChoiceLine>
      <View style={styles.wrap}>
        <Button
          small
          label="Until here"
          spoken="It stays until where the picture stands"
          onPress={() => change({ untilUs: Math.round(takeUs) })}
        />
        <Button
          small
          label="Never wiped"
          spoken="Nothing wipes it any more"
          onPress={() => change({ untilUs: null })}
        />
      </View>
      <View style={styles.wrap}>
        {times.map(({ label, valueUs, leastUs, set }) => (
          <Stepper
            key={label}
            label={label}
            value={valueUs}
            least={leastUs}
            most={durationUs}
            step={STEP_US}
            onChange={(us) => set(Math.round(us))}
            format={(us) => formatTenths(filmOf(us))}
            parse={(text) => {
              const filmUs = parseClock(text);
              const inFilm = Math.min(filmUs ?? 0, film.durationUs - 1);
              const at = filmUs === null ? null : recordedAt(film, inFilm);
              return at?.takeId === takeId ? at.takeUs : null;
            }}
            unit="min:s of the film"
            stepWords={['a tenth earlier', 'a tenth later']}
          />
        ))}
      </View>
      <Words size="small" tone="soft">
        Drag it in the picture to move it, or use the arrow keys there.
      </Words>
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  line: { flexDirection: 'row', alignItems: 'center', flexWrap: 'wrap', gap: SPACE.small },
  wrap: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
  grow: { flexGrow: 1, flexShrink: 1 },
});
