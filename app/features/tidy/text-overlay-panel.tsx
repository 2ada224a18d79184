import { middleOf } from '@under-chalk/core/time/ranges';
import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { filmTimeFrom, type Film } from '@under-chalk/core/film/film';
import type { TextOverlay } from '@under-chalk/core/lesson/text-overlay';
import { at } from '@under-chalk/core/time/timeline';
import { useEdits } from '../../data/edits';
import { Button } from '../../ui/button';
import { Choices } from '../../ui/choices';
import { Field } from '../../ui/field';
import { SPACE } from '../../ui/theme';
import type { OpenStretch } from './open-stretch';
import { useTidying } from './tidying';

const PLACES: { value: TextOverlay['place']; label: string }[] = [
  { value: 'bottom', label: 'at the bottom' },
  { value: 'top', label: 'at the top' },
];

interface Props {
  readonly film: Film;
  readonly stretch: OpenStretch;
}

/** A line of words over what is chosen. */
export const TextOverlayPanel = ({ film, stretch }: Props) => {
  const { put } = useEdits();
  const tidying = useTidying();
  const { takeId, placementId, startUs, endUs } = stretch;
  const middleUs = middleOf(stretch);
  const line = at(film.lesson.decisions.textOverlays, takeId, middleUs)?.textOverlay ?? null;
  const [open, setOpen] = useState(false);
  const [text, setText] = useState(line?.text ?? '');
  const [place, setPlace] = useState<TextOverlay['place']>(line?.place ?? 'bottom');
  const lay = (words: string, where: TextOverlay['place']) => {
    const clean = words.trim();
    put({
      ...{ do: 'set-text-overlay', takeId, startUs, endUs },
      textOverlay: clean ? { text: clean, place: where } : null,
    });
    tidying.goTo(filmTimeFrom(film, { takeId, placementId, takeUs: middleUs }));
  };
  return (
    <View style={styles.group}>
      <View style={styles.buttons}>
        <Button
          small
          label={line ? 'Change text' : 'Add text'}
          expanded={open}
          onPress={() => setOpen(!open)}
        />
        {line ? (
          <Button
            small
            label="Take the words away"
            onPress={() => {
              setText('');
              lay('', place);
            }}
          />
        ) : null}
      </View>
      {open ? (
        <>
          <Field
            label="Words over what is chosen"
            hint="A short line: what page it is, a term, a name."
            maxLength={160}
            value={text}
            onChangeText={setText}
            onSubmitEditing={() => lay(text, place)}
          />
          <Choices
            label="They stand"
            choices={PLACES}
            value={place}
            onChoose={(chosen) => {
              setPlace(chosen);
              if (line) lay(text, chosen);
            }}
          />
          <View style={styles.buttons}>
            <Button
              small
              kind="main"
              label="Put them there"
              disabled={text.trim() === '' || (text.trim() === line?.text && place === line.place)}
              onPress={() => lay(text, place)}
            />
          </View>
        </>
      ) : null}
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
