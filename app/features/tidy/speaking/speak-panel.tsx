import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { errorText } from '@under-chalk/core/errors/errors';
import type { Film } from '@under-chalk/core/film/film';
import { takeOf } from '@under-chalk/core/lesson/lesson';
import { comingTakes } from '@under-chalk/core/lesson/take-names';
import { trackOf } from '@under-chalk/core/lesson/take';
import { middleOf } from '@under-chalk/core/time/ranges';
import { at } from '@under-chalk/core/time/timeline';
import { NONE } from '../../../capture/devices';
import { useEdits } from '../../../data/edits';
import { usePart } from '../../../data/live-value';
import { KEYS } from '../../../data/queries';
import { Button } from '../../../ui/button';
import { useFocusWhen } from '../../../ui/focus';
import { Announce } from '../../../ui/announce';
import { LevelMeter } from '../../../ui/level-meter';
import { Words } from '../../../ui/text';
import { SPACE } from '../../../ui/theme';
import { rememberedChoice } from '../../record/choice-memory';
import { useWakeLock } from '../../record/use-wake-lock';
import { secondsOf, type OpenStretch } from '../open-stretch';
import { useTidying } from '../tidying';
import { SpeakingOver } from './speaking-over';

interface Props {
  readonly film: Film;
  readonly stretch: OpenStretch;
}

/** Speaks what is chosen anew, while its picture plays; or has the first voice heard again. */
export const SpeakPanel = ({ film, stretch }: Props) => {
  const [opened, setOpened] = useState(false);
  const { put } = useEdits();
  const { lesson } = film;
  const { takeId, startUs, endUs } = stretch;
  const over = at(lesson.decisions.voiceOvers, takeId, middleOf(stretch));
  const by = over && takeOf(lesson, over.by.takeId);
  // Before the lesson knows of it too.
  const coming = over && (!by || comingTakes({ takes: [by] }).length > 0);
  return (
    <View style={styles.group}>
      {over ? (
        <Words size="small" tone="soft" role="status">
          {coming
            ? 'It was spoken anew, which is being made ready; until then the first voice is heard.'
            : by && trackOf(by, 'voice')
              ? 'It was spoken anew: that voice is heard here.'
              : 'What was spoken anew can’t be read: the first voice is heard.'}
        </Words>
      ) : null}
      {opened ? (
        <Speaking film={film} stretch={stretch} onDone={() => setOpened(false)} />
      ) : (
        <View style={styles.buttons}>
          <Button
            small
            label={over ? 'Re-record again' : 'Re-record the voice'}
            spoken={`${over ? 'Re-record again' : 'Re-record the voice'}, over its picture`}
            onPress={() => setOpened(true)}
          />
          {over ? (
            <Button
              small
              label="The first voice again"
              onPress={() => put({ do: 'set-voice-over', takeId, startUs, endUs, by: null })}
            />
          ) : null}
        </View>
      )}
    </View>
  );
};

const SECONDS_BEFORE = 3;

/** Speaking, from the press that begins it. */
const Speaking = ({ film, stretch, onDone }: Props & { readonly onDone: () => void }) => {
  const tidying = useTidying();
  const { put } = useEdits();
  const client = useQueryClient();
  const [speaking] = useState(() => new SpeakingOver(tidying.shows));
  const state = usePart(speaking.state, (one) => one);
  const count = usePart(speaking.recorder, ({ state: now }) =>
    now.name === 'count-in' ? now.left : null,
  );
  const level = usePart(speaking.recorder, (view) => view.level);
  useEffect(() => () => speaking.close(), [speaking]);
  useWakeLock(state.is === 'beginning' || state.is === 'speaking');
  const first = useFocusWhen(true);
  const stop = useFocusWhen(state.is === 'beginning');
  const after = useFocusWhen(state.is === 'spoken' || state.is === 'failed');
  const begin = () => {
    const { microphone } = rememberedChoice();
    tidying.show(stretch);
    void speaking.begin({
      ...{ lesson: film.lesson, stretch, countIn: SECONDS_BEFORE, put },
      microphone: microphone === NONE ? '' : microphone,
      onEnded: () => void client.invalidateQueries({ queryKey: KEYS.lesson(film.lesson.id) }),
    });
  };
  const under = state.is === 'beginning' || state.is === 'speaking' || state.is === 'ending';
  const seconds = secondsOf(stretch);
  const sentence = {
    'not-yet': `The picture plays for ${seconds} s without a sound, and you speak with it. What you said first is kept.`,
    beginning: count ? `You speak in ${count}…` : 'The microphone is being opened…',
    speaking:
      state.is === 'speaking' ? `Speak now: ${Math.ceil(state.leftUs / 1e6)} s are left.` : '',
    ending: 'What you said is being brought to safety…',
    spoken: 'It is safe, and is heard as soon as it is ready.',
    failed:
      state.is === 'failed' ? `${errorText(state.why).message} ${errorText(state.why).hint}` : '',
  }[state.is];
  return (
    <View style={styles.group}>
      <Announce words={state.is === 'speaking' ? 'Speak now' : sentence} />
      <Words size="small" tone={state.is === 'failed' ? 'warn' : undefined}>
        {sentence}
      </Words>
      {state.is === 'speaking' ? <LevelMeter {...level} /> : null}
      <View style={styles.buttons}>
        {under ? (
          <Button
            ref={stop}
            small
            label={state.is === 'beginning' ? 'Not now' : 'Stop here'}
            disabled={state.is === 'ending'}
            onPress={() => speaking.end()}
          />
        ) : (
          <>
            <Button
              ref={state.is === 'not-yet' ? first : undefined}
              small
              kind="main"
              label={state.is === 'not-yet' ? 'Begin in 3 s' : 'Re-record again'}
              onPress={begin}
            />
            <Button ref={after} small label="Done with speaking" onPress={onDone} />
          </>
        )}
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
