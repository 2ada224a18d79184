import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { languageSchema } from '@under-chalk/core/words/cue';
import { languageName, OFFERED } from '@under-chalk/core/words/language';
import { useEdits } from '../../data/edits';
import { Button } from '../../ui/button';
import { ChoiceLine } from '../../ui/choice-line';
import { Choices } from '../../ui/choices';
import { Field } from '../../ui/field';
import { SPACE } from '../../ui/theme';

interface Props {
  /** Languages that there are captions in. */
  readonly languages: readonly string[];
  readonly spoken: string;
  readonly language: string;
  readonly onChoose: (language: string) => void;
}

/** Which language the captions are in: those that are there, any other, and which of them is spoken. */
export const LanguageChoice = ({ languages, spoken, language, onChoose }: Props) => {
  const { put } = useEdits();
  const [wanted, setWanted] = useState('');
  const there = [...new Set([spoken, ...languages, language])];
  const name = (code: string) =>
    `${languageName(code)}${code === spoken ? ', as it is spoken' : ''}`;
  const asked = wanted.trim().toLocaleLowerCase();
  const found =
    asked === ''
      ? []
      : OFFERED.filter(
          (code) =>
            !there.includes(code) &&
            (code === asked ||
              languageName(code).toLocaleLowerCase().startsWith(asked) ||
              languageName(code, code).toLocaleLowerCase().startsWith(asked)),
        ).slice(0, 5);
  const typed = languageSchema.safeParse(wanted.trim());
  const offered: string[] =
    found.length === 0 && typed.success && !there.includes(typed.data) ? [typed.data] : found;
  return (
    <ChoiceLine label="Captions in" value={name(language)}>
      <Choices
        label="Captions in"
        hideLabel
        choices={there.map((code) => ({ value: code, label: name(code) }))}
        value={language}
        onChoose={onChoose}
      />
      <View style={styles.other}>
        <Field
          label="Another language"
          hint="Its name, or its letters, as de or pt-BR."
          value={wanted}
          onChangeText={setWanted}
        />
        <View style={styles.buttons}>
          {offered.map((code) => (
            <Button
              key={code}
              small
              label={languageName(code)}
              onPress={() => {
                setWanted('');
                onChoose(code);
              }}
            />
          ))}
        </View>
      </View>
      {language === spoken ? null : (
        <Button
          small
          label={`${languageName(language)} is what is spoken`}
          onPress={() => put({ do: 'set-language', language })}
        />
      )}
    </ChoiceLine>
  );
};

const styles = StyleSheet.create({
  other: { gap: SPACE.small },
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
