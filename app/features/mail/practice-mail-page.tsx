import { useQuery } from '@tanstack/react-query';
import { StyleSheet, View } from 'react-native';
import type { PracticeLetter } from '@under-chalk/core/contract/mail';
import { call, codeOf } from '../../data/client';
import { KEYS } from '../../data/queries';
import { momentInWords } from '../../ui/moment';
import { Failed, Loading, Screen } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';
import { BackToLessons } from '../lessons/back-to-lessons';

/** Somebody may be sending just now. */
const NEWER_MS = 3_000;

/** Letters as students would have had them, where no mail server is given. */
export const PracticeMailPage = () => {
  const letters = useQuery({
    queryKey: KEYS.practiceMail,
    queryFn: () => call('practiceMail'),
    refetchInterval: NEWER_MS,
  });
  return (
    <Screen name="The practice mailbox" head={<BackToLessons />}>
      <Heading level={1}>The practice mailbox</Heading>
      <Words tone="soft">
        Letters come here, and go nowhere else, until you give your mail server under You.
      </Words>
      {letters.data ? (
        letters.data.length === 0 ? (
          <Words>No letter yet.</Words>
        ) : (
          <View role="list" aria-label="Letters" style={styles.list}>
            {letters.data.map((letter) => (
              <Letter key={letter.id} letter={letter} />
            ))}
          </View>
        )
      ) : letters.error ? (
        <Failed code={codeOf(letters.error)} onRetry={() => void letters.refetch()} />
      ) : (
        <Loading what="the letters" />
      )}
    </Screen>
  );
};

/** A line that is an address on this server, alone. */
const isAddress = (line: string): boolean =>
  /^https?:\/\/\S+$/.test(line) && URL.parse(line)?.origin === location.origin;

const Letter = ({ letter: { at, from, to, subject, text } }: { letter: PracticeLetter }) => {
  const theme = useTheme();
  return (
    <View
      role="listitem"
      style={[styles.letter, { borderColor: theme.line, backgroundColor: theme.card }]}
    >
      <Heading level={2} style={styles.subject}>
        {subject || 'Without a subject'}
      </Heading>
      <Words size="small" tone="soft">
        {`To ${to} · from ${from} · ${momentInWords(at)}`}
      </Words>
      {text
        .trim()
        .split('\n')
        .map((line, index) =>
          isAddress(line) ? (
            <Words
              key={index}
              tone="action"
              style={styles.address}
              {...({ href: line, hrefAttrs: { target: '_blank', rel: 'noopener' } } as object)}
            >
              {line}
            </Words>
          ) : (
            <Words key={index}>{line}</Words>
          ),
        )}
    </View>
  );
};

const styles = StyleSheet.create({
  list: { gap: SPACE.medium },
  letter: { padding: SPACE.medium, gap: SPACE.hair, borderWidth: 1, borderRadius: RADIUS.medium },
  subject: { ...({ overflowWrap: 'anywhere' } as object) },
  address: {
    textDecorationLine: 'underline',
    paddingVertical: 11,
    ...({ overflowWrap: 'anywhere' } as object),
  },
});
