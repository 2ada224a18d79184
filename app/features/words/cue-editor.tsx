import { useRef, useState } from 'react';
import { StyleSheet, View, type TextInputKeyPressEvent } from 'react-native';
import { recordedAt } from '@under-chalk/core/film/film';
import { takeOf } from '@under-chalk/core/lesson/lesson';
import { formatTenths, parseClock } from '@under-chalk/core/time/us';
import { DOUBTS } from '@under-chalk/core/words/checks';
import { wordsIn, type Cue } from '@under-chalk/core/words/cue';
import {
  join,
  LEAST_CUE_US,
  retexted,
  retimed,
  shifted,
  split,
} from '@under-chalk/core/words/mend';
import { newId } from '../../capture/new-id';
import type { FilmPlayer } from '../../player/film-player';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { Menu } from '../../ui/menu';
import { Stepper } from '../../ui/stepper';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import type { Captions } from './use-captions';

/** A step of an end, µs. */
const STEP_US = 100_000;

interface Props {
  readonly captions: Captions;
  readonly player: FilmPlayer;
  readonly index: number;
  readonly onOpen: (index: number | null) => void;
}

/** Mends a caption: its words, its ends, and where it is divided from its neighbours. */
export const CueEditor = ({ captions, player, index, onOpen }: Props) => {
  const { film, shown, write } = captions;
  const { cue, startUs, endUs, fromWord, toWord } = shown[index]!;
  const [text, setText] = useState(cue.text);
  const caret = useRef<number | null>(null);
  const [known, setKnown] = useState(cue.text);
  // It was changed from elsewhere: by undo, or by all at once.
  if (known !== cue.text) {
    setKnown(cue.text);
    setText(cue.text);
  }
  const typed = text.trim();
  /** The caption with what stands in the field now. */
  const now = (): Cue => (typed === '' || typed === cue.text ? cue : retexted(cue, typed));
  const save = () => {
    if (now() !== cue) write([now()]);
  };
  const divide = () => {
    const current = now();
    const before = wordsIn(text.slice(0, caret.current ?? Math.floor(text.length / 2))).length;
    const parts = split(current, before, newId());
    if (parts) write(parts);
  };
  const neighbour = shown[index + 1]?.cue;
  const together = neighbour ? join(now(), neighbour) : null;
  const move = (end: 'startUs' | 'endUs', filmUs: number) => {
    const place = recordedAt(film, end === 'startUs' ? filmUs : Math.max(0, filmUs - 1));
    if (!place || place.takeId !== cue.takeId) return;
    const ends = { startUs: cue.startUs, endUs: cue.endUs, [end]: place.takeUs };
    if (ends.endUs - ends.startUs < LEAST_CUE_US) return;
    write([retimed(now(), ends.startUs, ends.endUs)]);
    void player.seek(end === 'startUs' ? filmUs : Math.max(0, filmUs - 50_000));
  };
  const shiftFromHere = (byUs: number) => {
    const later = captions.cues.filter(
      (one) => one.takeId === cue.takeId && one.startUs >= cue.startUs,
    );
    write(shifted(later, byUs, takeOf(film.lesson, cue.takeId)!.durationUs));
  };
  const keyed = (event: TextInputKeyPressEvent) => {
    const { key, ctrlKey, metaKey } = event.nativeEvent as unknown as KeyboardEvent;
    if (key === 'Enter' && (ctrlKey || metaKey)) {
      event.preventDefault();
      divide();
    } else if (key === 'Escape') {
      event.preventDefault();
      onOpen(null);
    }
  };
  const whole = fromWord === 0 && toWord === wordsIn(cue.text).length;
  const reasons = [...new Set(shown[index]!.doubts)].map((doubt) => DOUBTS[doubt].why);
  const stepper = {
    step: STEP_US,
    fineStep: STEP_US / 10,
    format: formatTenths,
    parse: parseClock,
  };
  return (
    <View style={styles.editor}>
      <Field
        label={`Words of caption ${index + 1}`}
        hideLabel
        multiline
        value={text}
        maxLength={1_000}
        {...(whole
          ? {}
          : { hint: 'A cut goes through it: some of these words aren’t in the film.' })}
        onChangeText={setText}
        onBlur={save}
        onKeyPress={keyed}
        onSelectionChange={({ nativeEvent }) => {
          caret.current = nativeEvent.selection.start;
        }}
        style={styles.field}
      />
      {reasons.map((why) => (
        <Words key={why} size="small" tone="soft">
          {why}
        </Words>
      ))}
      <View style={styles.steppers}>
        <Stepper
          {...stepper}
          label="From"
          unit="in the film"
          stepWords={['a tenth earlier', 'a tenth later']}
          value={startUs}
          least={0}
          most={endUs - LEAST_CUE_US}
          onChange={(us) => move('startUs', us)}
        />
        <Stepper
          {...stepper}
          label="Until"
          unit="in the film"
          stepWords={['a tenth earlier', 'a tenth later']}
          value={endUs}
          least={startUs + LEAST_CUE_US}
          most={film.durationUs}
          onChange={(us) => move('endUs', us)}
        />
      </View>
      <View style={styles.buttons}>
        {cue.draft ? (
          <Button
            small
            label="It is right"
            spoken={`Caption ${index + 1} is right as it is`}
            onPress={() => write([{ ...now(), draft: false }])}
          />
        ) : null}
        <Button small label="Divide here" spoken="Divide at the cursor" onPress={divide} />
        <Button
          small
          label="Join the next"
          disabled={!together}
          onPress={() => together && write([together], [neighbour!.id])}
        />
        <Button
          small
          kind="grave"
          label="Take it away"
          spoken={`Take caption ${index + 1} away`}
          onPress={() => {
            onOpen(null);
            write([], [cue.id]);
          }}
        />
        <Menu
          of={`caption ${index + 1}`}
          items={[
            { label: 'All from here a tenth earlier', onPress: () => shiftFromHere(-STEP_US) },
            { label: 'All from here a tenth later', onPress: () => shiftFromHere(STEP_US) },
            {
              label: 'All from here a second earlier',
              onPress: () => shiftFromHere(-10 * STEP_US),
            },
            { label: 'All from here a second later', onPress: () => shiftFromHere(10 * STEP_US) },
          ]}
        />
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  editor: { gap: SPACE.small },
  field: { minHeight: 64 },
  steppers: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.medium },
  buttons: { flexDirection: 'row', flexWrap: 'wrap', alignItems: 'center', gap: SPACE.small },
});
