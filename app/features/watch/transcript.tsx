import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import type { Chapter } from '@under-chalk/core/film/chapters';
import { formatClock, formatSpoken, type Us } from '@under-chalk/core/time/us';
import { isRightToLeft, languageName } from '@under-chalk/core/words/language';
import { transcriptOf } from '@under-chalk/core/words/transcript';
import { codeOf } from '../../data/fetch';
import { Button } from '../../ui/button';
import { Choices } from '../../ui/choices';
import { Failed, Loading } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { fetchWords, wordsFilePath } from './watch-data';

interface Props {
  readonly token: string;
  readonly languages: readonly string[];
  readonly chapters: readonly Chapter[];
  readonly onGo: (us: Us) => void;
}

/** All that is said, to read: under the titles of the chapters, each paragraph with the time to jump to. */
export const Transcript = ({ token, languages, chapters, onGo }: Props) => {
  const [open, setOpen] = useState(false);
  const [language, setLanguage] = useState(languages[0]!);
  const words = useQuery({
    queryKey: ['words', token, language],
    queryFn: () => fetchWords(token, language),
    enabled: open,
    staleTime: Infinity,
  });
  const fromRight = isRightToLeft(language) ? styles.rightToLeft : null;
  const save = (form: 'html' | 'txt' | 'vtt' | 'srt') =>
    location.assign(wordsFilePath(token, language, form));
  return (
    <View style={styles.group}>
      <View style={styles.line}>
        <Button
          label={open ? 'Fold the words away' : 'Read what is said'}
          expanded={open}
          onPress={() => setOpen(!open)}
        />
      </View>
      {open && languages.length > 1 ? (
        <Choices
          label="In"
          choices={languages.map((value) => ({ value, label: languageName(value, value) }))}
          value={language}
          onChoose={setLanguage}
        />
      ) : null}
      {!open ? null : words.data ? (
        <View style={styles.group} {...({ lang: language } as object)}>
          {transcriptOf(words.data.cues, chapters).map((part) => (
            <View key={part.startUs} style={styles.part}>
              {part.title === null ? null : <Heading level={2}>{part.title}</Heading>}
              {part.paragraphs.map(({ startUs, text }) => (
                <View key={startUs} style={styles.paragraph}>
                  <Button
                    small
                    kind="bare"
                    label={formatClock(startUs)}
                    spoken={`Go to ${formatSpoken(startUs)}`}
                    onPress={() => onGo(startUs)}
                  />
                  <Words style={[styles.text, fromRight]}>{text}</Words>
                </View>
              ))}
            </View>
          ))}
          <View style={styles.line}>
            <Button small label="Save as a page" onPress={() => save('html')} />
            <Button small label="Save as text" onPress={() => save('txt')} />
            <Button small label="Save as captions" onPress={() => save('vtt')} />
          </View>
        </View>
      ) : words.error ? (
        <Failed code={codeOf(words.error)} onRetry={() => void words.refetch()} />
      ) : (
        <Loading what="the words" />
      )}
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.medium, maxWidth: 720 },
  line: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
  part: { gap: SPACE.small },
  paragraph: { flexDirection: 'row', alignItems: 'flex-start', gap: SPACE.small },
  text: { flexShrink: 1, paddingTop: 10 },
  rightToLeft: { writingDirection: 'rtl' },
});
