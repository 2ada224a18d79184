import { useQuery } from '@tanstack/react-query';
import { StyleSheet, View } from 'react-native';
import type { TestMail } from '@under-chalk/core/contract/mail';
import { call, codeOf } from '../../data/client';
import { KEYS } from '../../data/queries';
import { useTeacherText } from '../../messages/use-text';
import { Failed, Loading, Screen } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';
import { BackToLessons } from '../lessons/back-to-lessons';

/** Somebody may be sending just now. */
const NEWER_MS = 3_000;

/** E-mails as students would have had them, where no mail server is given. */
export const TestInboxPage = () => {
  const { t } = useTeacherText();
  const mails = useQuery({
    queryKey: KEYS.testInbox,
    queryFn: () => call('testInbox'),
    refetchInterval: NEWER_MS,
  });
  return (
    <Screen name={t('mail.testInbox')} head={<BackToLessons />}>
      <Heading level={1}>{t('mail.testInbox')}</Heading>
      <Words tone="soft">{t('mail.testInboxHelp')}</Words>
      {mails.data ? (
        mails.data.length === 0 ? (
          <Words>{t('mail.none')}</Words>
        ) : (
          <View role="list" aria-label={t('mail.list')} style={styles.list}>
            {mails.data.map((mail) => (
              <Mail key={mail.id} mail={mail} />
            ))}
          </View>
        )
      ) : mails.error ? (
        <Failed code={codeOf(mails.error)} onRetry={() => void mails.refetch()} />
      ) : (
        <Loading />
      )}
    </Screen>
  );
};

/** A line that is an address on this server, alone. */
const isAddress = (line: string): boolean =>
  /^https?:\/\/\S+$/.test(line) && URL.parse(line)?.origin === location.origin;

const Mail = ({ mail: { at, from, to, subject, text } }: { mail: TestMail }) => {
  const theme = useTheme();
  const { t, when } = useTeacherText();
  return (
    <View
      role="listitem"
      style={[styles.mail, { borderColor: theme.line, backgroundColor: theme.card }]}
    >
      <Heading level={2} style={styles.subject}>
        {subject || t('mail.noSubject')}
      </Heading>
      <Words size="small" tone="soft">
        {t('mail.header', { to, from, date: when(at) })}
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
