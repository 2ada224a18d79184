import { useEffect, useMemo, useRef } from 'react';
import { StyleSheet, View, type TextInput, type TextInputKeyPressEvent } from 'react-native';
import type { Film } from '@under-chalk/core/film/film';
import type { TimeRange } from '@under-chalk/core/time/ranges';
import { formatTenths } from '@under-chalk/core/time/us';
import { cuesOfFilmText } from '@under-chalk/core/words/film-placing';
import { MOST_IN_CUE } from '@under-chalk/core/words/lines';
import { newId } from '../../capture/new-id';
import { usePart } from '../../data/live-value';
import type { FilmPlayer } from '../../player/film-player';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { focusOn } from '../../ui/focus';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { Typing } from './typing';
import type { Captions } from './use-captions';

interface Props {
  readonly captions: Captions;
  readonly player: FilmPlayer;
  readonly speech: readonly TimeRange[];
  readonly onDone: () => void;
}

/** A film that goes on under what is typed changes with each caption: it is asked for when it is needed. */
const useNewest = <T,>(value: T) => {
  const kept = useRef(value);
  useEffect(() => {
    kept.current = value;
  });
  return kept;
};

/** Captions typed while the film plays: it waits while one types. */
export const TypingPanel = ({ captions, player, speech, onDone }: Props) => {
  const { film, language } = captions;
  const field = useRef<TextInput>(null);
  const newest = useNewest({ film, speech, write: captions.writeLaidOut });
  const lessonId = film.lesson.id;
  const typing = useMemo(
    () =>
      new Typing({
        player,
        key: `typing ${lessonId} ${language}`,
        speech: () => newest.current.speech,
        put: (text, startUs, endUs) => {
          const { film: now, write } = newest.current;
          write(cuesOfFilmText(now as Film, { text, startUs, endUs }, { timed: 'by-hand', newId }));
        },
      }),
    [player, lessonId, language, newest],
  );
  const { shown } = captions;
  const lastUs = useRef(shown.at(-1)?.endUs ?? 0);
  useEffect(() => {
    // On from where the captions end, unless another place is shown or something is half typed.
    if (player.view().filmUs === 0 && typing.view().text === '') typing.goTo(lastUs.current);
    focusOn(field.current);
    return () => typing.close();
  }, [typing, player]);
  const text = usePart(typing, (view) => view.text);
  const waits = usePart(typing, (view) => view.waits);
  const playing = usePart(player, (view) => view.playing);
  const atTenth = usePart(player, (view) => formatTenths(view.filmUs));
  const keyed = (event: TextInputKeyPressEvent) => {
    const { key } = event.nativeEvent;
    if (key === 'Enter') {
      event.preventDefault();
      typing.finish();
    } else if (key === 'Escape') {
      event.preventDefault();
      typing.back();
    }
  };
  const going = playing || waits;
  return (
    <View role="group" aria-label="Type as you listen" style={styles.panel}>
      <View style={styles.head}>
        <Words size="small" tone="soft" role="status" style={styles.grow}>
          {waits ? 'It waits while you type.' : playing ? 'Listening…' : `At ${atTenth}.`}
        </Words>
        <Button
          small
          label="Done"
          spoken="Done typing"
          onPress={() => {
            typing.finish();
            onDone();
          }}
        />
      </View>
      <Field
        ref={field}
        label="What is said"
        hideLabel
        multiline
        maxLength={MOST_IN_CUE * 3}
        placeholder="Type what you hear"
        hint="Enter, or a full stop and a space, begins the next. Esc: three seconds back."
        value={text}
        onChangeText={(typed) => typing.type(typed)}
        onKeyPress={keyed}
        style={styles.field}
      />
      <View style={styles.buttons}>
        <Button
          small
          grow
          label="3 s back"
          spoken="Three seconds back"
          onPress={() => typing.back()}
        />
        <Button
          small
          grow
          label={going ? 'Stop' : 'Listen'}
          onPress={() => typing.listen(!going)}
        />
        <Button
          small
          grow
          label="Next caption"
          disabled={text.trim() === ''}
          onPress={() => {
            typing.finish();
            focusOn(field.current);
          }}
        />
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  panel: { width: '100%', gap: SPACE.hair },
  head: { flexDirection: 'row', alignItems: 'center', gap: SPACE.small },
  grow: { flexGrow: 1, flexShrink: 1 },
  field: { minHeight: 64 },
  buttons: { flexDirection: 'row', gap: SPACE.small },
});
