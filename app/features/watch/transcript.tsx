import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useRef, useState } from 'react';
import { StyleSheet, View } from 'react-native';
import type { Chapter } from '@under-chalk/core/film/chapters';
import { formatClock, type Us } from '@under-chalk/core/time/us';
import { isRightToLeft, languageName } from '@under-chalk/core/words/language';
import type { ReadDescription } from '@under-chalk/core/words/audio-description';
import { transcriptOf } from '@under-chalk/core/words/transcript';
import { codeOf } from '../../data/fetch';
import { useText } from '../../messages/use-text';
import { Button } from '../../ui/button';
import { Choices } from '../../ui/choices';
import { Failed, Loading } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { elementOf } from '../../ui/focus';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';
import { fetchWords, wordsFilePath } from './watch-data';

interface Props {
  readonly token: string;
  readonly languages: readonly string[];
  readonly chapters: readonly Chapter[];
  /** What is seen, in the language that is spoken: it stands among those words. */
  readonly described: readonly ReadDescription[];
  readonly spoken: string;
  /** The place that the film is at. */
  readonly atUs: Us;
  readonly onGo: (us: Us) => void;
}

/** How long the words stay where somebody has moved them to, ms. */
const LEFT_ALONE_MS = 6_000;

/** Keeps what is being said in sight inside of its box, unless somebody reads elsewhere in it. */
const useFollowed = (current: Us | null) => {
  const box = useRef<View>(null);
  const movedAt = useRef(-Infinity);
  useEffect(() => {
    const inside = elementOf(box.current);
    const said = inside?.querySelector<HTMLElement>('[aria-current=true]');
    if (!inside || !said || performance.now() - movedAt.current < LEFT_ALONE_MS) return;
    const [outer, inner] = [inside.getBoundingClientRect(), said.getBoundingClientRect()];
    if (inner.top >= outer.top && inner.bottom <= outer.bottom) return;
    inside.scrollTo({ top: inside.scrollTop + inner.top - outer.top - 8 });
  }, [current]);
  return {
    box,
    onScroll: () => {
      movedAt.current = performance.now();
    },
  };
};

/** All that is said, to read: under the titles of the chapters, each paragraph with the time to jump to. */
export const Transcript = (props: Props) => {
  const { token, languages, chapters, described, spoken, atUs, onGo } = props;
  const theme = useTheme();
  const { t, length } = useText();
  const [open, setOpen] = useState(false);
  const [language, setLanguage] = useState(languages[0]!);
  const words = useQuery({
    queryKey: ['words', token, language],
    queryFn: () => fetchWords(token, language),
    enabled: open,
    staleTime: Infinity,
  });
  const { data } = words;
  const parts = useMemo(
    () =>
      data ? transcriptOf(data.cues, chapters, data.language === spoken ? described : []) : [],
    [data, chapters, described, spoken],
  );
  // The paragraph that is being said: the last one that has begun.
  const starts = parts.flatMap(({ paragraphs }) => paragraphs.map(({ startUs }) => startUs));
  const current = starts.findLast((startUs) => startUs <= atUs) ?? null;
  const { box, onScroll } = useFollowed(current);
  const fromRight = isRightToLeft(language) ? styles.rightToLeft : null;
  const save = (form: 'html' | 'txt' | 'vtt' | 'srt') =>
    location.assign(wordsFilePath(token, language, form));
  return (
    <View style={styles.group}>
      <View style={styles.line}>
        <Button
          label={open ? t('watch.hideTranscript') : t('watch.showTranscript')}
          expanded={open}
          onPress={() => setOpen(!open)}
        />
      </View>
      {open && languages.length > 1 ? (
        <Choices
          label={t('watch.transcriptLanguage')}
          choices={languages.map((value) => ({ value, label: languageName(value, value) }))}
          value={language}
          onChoose={setLanguage}
        />
      ) : null}
      {!open ? null : words.data ? (
        <View style={styles.group} {...({ lang: language } as object)}>
          <View
            ref={box}
            style={styles.words}
            role="group"
            aria-label={t('watch.transcript')}
            {...({
              tabIndex: 0,
              onWheel: onScroll,
              onTouchMove: onScroll,
              onKeyDown: onScroll,
            } as object)}
          >
            {parts.map((part) => (
              <View key={part.startUs} style={styles.part}>
                {part.title === null ? null : <Heading level={2}>{part.title}</Heading>}
                {part.paragraphs.map(({ startUs, text }) => (
                  <View
                    key={startUs}
                    aria-current={startUs === current ? 'true' : undefined}
                    style={[
                      styles.paragraph,
                      startUs === current ? { backgroundColor: theme.actionSoft } : null,
                    ]}
                  >
                    <Button
                      small
                      kind="bare"
                      label={formatClock(startUs)}
                      spoken={t('watch.goTo', { place: length(startUs) })}
                      onPress={() => onGo(startUs)}
                    />
                    <Words style={[styles.text, fromRight]}>{text}</Words>
                  </View>
                ))}
              </View>
            ))}
          </View>
          <View style={styles.line}>
            <Button small label={t('watch.downloadPage')} onPress={() => save('html')} />
            <Button small label={t('watch.downloadText')} onPress={() => save('txt')} />
            <Button small label={t('watch.downloadCaptions')} onPress={() => save('vtt')} />
          </View>
        </View>
      ) : words.error ? (
        <Failed code={codeOf(words.error)} onRetry={() => void words.refetch()} />
      ) : (
        <Loading />
      )}
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.medium, maxWidth: 720 },
  line: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
  // A box of its own: the words go by in it, and the picture stays where it is.
  words: {
    gap: SPACE.medium,
    maxHeight: 420,
    borderRadius: RADIUS.small,
    ...({ overflowY: 'auto', overscrollBehavior: 'contain' } as object),
  },
  part: { gap: SPACE.small },
  paragraph: {
    flexDirection: 'row',
    alignItems: 'flex-start',
    gap: SPACE.small,
    borderRadius: RADIUS.small,
    paddingRight: SPACE.small,
  },
  text: { flexShrink: 1, paddingTop: 10 },
  rightToLeft: { writingDirection: 'rtl' },
});
