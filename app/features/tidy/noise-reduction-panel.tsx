import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import type { Take } from '@under-chalk/core/lesson/take';
import {
  noiseIn,
  noiseInWords,
  type NoiseReduction,
} from '@under-chalk/core/sound/noise-reduction/noise-reduction';
import type { LevelLine } from '@under-chalk/core/sound/level-line';
import { noiseReductionOf } from '@under-chalk/core/sound/track-sound';
import { useEdits } from '../../data/edits';
import { usePart } from '../../data/live-value';
import { Button } from '../../ui/button';
import { Choices } from '../../ui/choices';
import { useFocusWhen } from '../../ui/focus';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { useTidy, useTidying } from './tidying';

const HOW = [
  { value: 'as-recorded', label: 'left as it is' },
  { value: 'gently', label: 'taken down gently' },
  { value: 'firmly', label: 'taken down firmly' },
] as const;

/** How much is heard of it, µs. */
const HEARD_US = 6_000_000;

interface Props {
  readonly lesson: Lesson;
  readonly take: Take;
  readonly placementId: string;
  readonly line: LevelLine | null;
  readonly onDone: () => void;
}

const upper = (sentence: string) => `${sentence[0]!.toLocaleUpperCase()}${sentence.slice(1)}.`;

/** What is done about the room that a take's voice was recorded in, and what that sounds like. */
export const NoiseReductionPanel = ({ lesson, take, placementId, line, onDone }: Props) => {
  const { put } = useEdits();
  const tidying = useTidying();
  const first = useFocusWhen(true);
  const [hearing, setHearing] = useState<'waiting' | 'failed' | null>(null);
  const reduction = noiseReductionOf(lesson.decisions, take.id);
  const room = line && noiseIn(line);
  const found = room && noiseInWords(room);
  const place = useTidy(({ open, here }) =>
    open?.placementId === placementId
      ? open.startUs
      : here?.placementId === placementId
        ? here.takeUs
        : null,
  );
  const hear = (how: NoiseReduction | null) => {
    const startUs = Math.min(place ?? 0, Math.max(0, take.durationUs - HEARD_US));
    const endUs = Math.min(take.durationUs, startUs + HEARD_US);
    setHearing(how ? 'waiting' : null);
    tidying.hearRoom({ takeId: take.id, placementId, startUs, endUs }, how).then(
      () => setHearing(null),
      () => setHearing('failed'),
    );
  };
  return (
    <View style={styles.group}>
      <Words size="small" tone="soft">
        {found
          ? upper(found)
          : 'The room is quiet in this take: there is little to be taken down but clicks, and breath on the microphone.'}
      </Words>
      <Choices
        label="Background noise"
        choices={HOW}
        value={reduction ?? 'as-recorded'}
        onChoose={(how) =>
          put({
            ...{ do: 'reduce-noise', takeId: take.id },
            reduction: how === 'as-recorded' ? null : how,
          })
        }
      />
      {reduction ? <HowFar takeId={take.id} reduction={reduction} /> : null}
      <View style={styles.buttons}>
        <Button small label="Hear it before" onPress={() => hear(null)} />
        <Button
          small
          label={hearing === 'waiting' ? 'Being made…' : 'Hear it after'}
          disabled={hearing === 'waiting'}
          onPress={() => hear(reduction ?? 'gently')}
        />
        <Button ref={first} small label="Done with the room" onPress={onDone} />
      </View>
      {hearing === 'failed' ? (
        <Words size="small" tone="warn" role="status">
          It can’t be heard now. What you recorded is as it was; try once more.
        </Words>
      ) : null}
    </View>
  );
};

/** How far the server is with it. */
const HowFar = ({ takeId, reduction }: { takeId: string; reduction: NoiseReduction }) => {
  const { noiseReduced } = useTidying();
  const state = usePart(noiseReduced.states, (states) => states.get(`${takeId} ${reduction}`));
  const sentence =
    state?.is === 'making'
      ? `It is being done: ${Math.floor(state.share * 100)} %. Until then the take is heard as it was recorded.`
      : state?.is === 'ready'
        ? 'It is heard so, here and in the film.'
        : state?.is === 'failed'
          ? 'It couldn’t be done: the take is heard as it was recorded.'
          : null;
  return sentence ? (
    <Words size="small" tone={state?.is === 'failed' ? 'warn' : 'soft'} role="status">
      {sentence}
    </Words>
  ) : null;
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
