import { useQuery } from '@tanstack/react-query';
import { StyleSheet, View } from 'react-native';
import type { TestMail } from '@under-chalk/core/contract/mail';
import { call, codeOf } from '../../data/client';
import { KEYS } from '../../data/queries';
import { dateTimeInWords } from '../../ui/date-time';
import { Failed, Loading, Screen } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';
import { BackToLessons } from '../lessons/back-to-lessons';

/** Somebody may be sending just now. */
const NEWER_MS = 3_000;

/** E-mails as students would have had them, where no mail server is given. */
export const TestInboxPage = () => {
  const mails = useQuery({
    queryKey: KEYS.testInbox,
    queryFn: () => call('testInbox'),
    refetchInterval: NEWER_MS,
  });
  return (
    <Screen name="Test inbox" head={<BackToLessons />}>
      <Heading level={1}>Test inbox</Heading>
      <Words tone="soft">
        E-mails come here, and go nowhere else, until you give your mail server under You.
      </Words>
      {mails.data ? (
        mails.data.length === 0 ? (
          <Words>No e-mail yet.</Words>
        ) : (
          <View role="list" aria-label="E-mails" style={styles.list}>
            {mails.data.map((mail) => (
              <Mail key={mail.id} mail={mail} />
            ))}
          </View>
        )
      ) : mails.error ? (
        <Failed code={codeOf(mails.error)} onRetry={() => void mails.refetch()} />
      ) : (
        <Loading what="the e-mails" />
      )}
    </Screen>
  );
};

/** A line that is an address on this server, alone. */
const isAddress = (line: string): boolean =>
  /^https?:\/\/\S+$/.test(line) && URL.parse(line)?.origin === location.origin;

const Mail = ({ mail: { at, from, to, subject, text } }: { mail: TestMail }) => {
  const theme = useTheme();
  return (
    <View
      role="listitem"
      style={[styles.mail, { borderColor: theme.line, backgroundColor: theme.card }]}
    >
      <Heading level={2} style={styles.subject}>
        {subject || 'Without a subject'}
      </Heading>
      <Words size="small" tone="soft">
        {`To ${to} · from ${from} · ${dateTimeInWords(at)}`}
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
  mail: { padding: SPACE.medium, gap: SPACE.hair, borderWidth: 1, borderRadius: RADIUS.medium },
  subject: { ...({ overflowWrap: 'anywhere' } as object) },
  address: {
    textDecorationLine: 'underline',
    paddingVertical: 11,
    ...({ overflowWrap: 'anywhere' } as object),
  },
});
