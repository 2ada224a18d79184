import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import type { ShareLink } from '@under-chalk/core/contract/share-links';
import {
  MOST_NOTE,
  remindedBy,
  type Reminder,
  type Mailing,
} from '@under-chalk/core/contract/mail';
import { call, codeOf } from '../../data/client';
import { askAgain, KEYS } from '../../data/queries';
import { Button } from '../../ui/button';
import { Choices } from '../../ui/choices';
import { counted } from '../../ui/counted';
import { Field } from '../../ui/field';
import { dateTimeInWords } from '../../ui/date-time';
import { ProblemNotice } from '../../ui/notice';
import { Row } from '../../ui/row';
import { Failed, Loading } from '../../ui/screen';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { TestInboxLink } from '../mail/test-inbox-link';
import { ownTimeZone } from '../classes/class-mail';

const isWaiting = ({ students }: Mailing): boolean =>
  students.some(({ lastMail: mail }) => mail?.state === 'waiting' && mail.problem === null);

/** Writes to those that it is for, one e-mail each, and tells what came of the last ones. */
export const LinkMail = ({ shareLink }: { shareLink: ShareLink }) => {
  const params = { shareLinkId: shareLink.id };
  const client = useQueryClient();
  const mailing = useQuery({
    queryKey: KEYS.mails(shareLink.id),
    queryFn: () => call('mailStatus', { params }),
    staleTime: 0,
    refetchInterval: ({ state }) =>
      askAgain(state.data ? isWaiting(state.data) : false, state.error),
  });
  const [note, setNote] = useState('');
  const [to, setTo] = useState<Reminder>('all');
  const write = useMutation({
    mutationFn: () => call('sendMail', { params, body: { to, note, timeZone: ownTimeZone() } }),
    onSuccess: (now) => {
      client.setQueryData(KEYS.mails(shareLink.id), now);
      setNote('');
    },
  });
  if (!mailing.data) {
    return mailing.error ? (
      <Failed code={codeOf(mailing.error)} onRetry={() => void mailing.refetch()} />
    ) : (
      <Loading what="the students" />
    );
  }
  const { students, practice } = mailing.data;
  const reached = remindedBy(to, students);
  const someOpened = students.some(({ opened }) => opened);
  const someIn = students.some(({ handedIn }) => handedIn);
  const unreachable = students.filter(({ reachable }) => !reachable).map(({ name }) => name);
  const again = reached.length > 0 && reached.every(({ lastMail: mail }) => mail?.state === 'sent');
  const written = students.filter(({ lastMail: mail }) => mail !== null);
  return (
    <View style={styles.group}>
      {someOpened || someIn ? (
        <ReminderChoice {...{ someOpened, someIn, to }} onChoose={setTo} />
      ) : null}
      <Field
        label="What you want to say"
        hint="May be left empty: where the film is stands in each e-mail."
        value={note}
        onChangeText={setNote}
        multiline
        maxLength={MOST_NOTE}
      />
      {unreachable.length > 0 ? (
        <Words size="small" tone="warn">
          {`Without an address for mail, or with no page: ${unreachable.join(', ')}.`}
        </Words>
      ) : null}
      <Words size="small" tone="soft">
        {practice
          ? 'Each has one alone. E-mails go to the test inbox until you give your mail server under You.'
          : 'Each has one alone; nobody sees who else it is for.'}
      </Words>
      <View style={styles.line}>
        <Button
          small
          kind={again ? 'plain' : 'main'}
          label={
            reached.length === 0
              ? 'Nobody to write to'
              : `Send ${counted(reached.length, 'e-mail')}${again ? ' once more' : ''}`
          }
          disabled={reached.length === 0 || write.isPending}
          onPress={() => write.mutate()}
        />
        {practice ? <TestInboxLink /> : null}
      </View>
      {write.error ? <ProblemNotice code={codeOf(write.error)} /> : null}
      {written.length > 0 ? (
        <View role="list" aria-label="E-mails" style={styles.group}>
          {written.map(({ studentId, name, lastMail: mail }) => (
            <Row key={studentId}>
              <View style={styles.words}>
                <Words strong>{name}</Words>
                <MailState mail={mail!} />
              </View>
            </Row>
          ))}
        </View>
      ) : null}
    </View>
  );
};

interface ReminderChoiceProps {
  readonly someOpened: boolean;
  readonly someIn: boolean;
  readonly to: Reminder;
  readonly onChoose: (to: Reminder) => void;
}

/** Who is written to: all, or those who need a reminder. */
export const ReminderChoice = ({ someOpened, someIn, to, onChoose }: ReminderChoiceProps) => (
  <Choices
    label="Send to"
    choices={[
      { value: 'all', label: 'All students' },
      ...(someOpened
        ? [{ value: 'unopened' as const, label: 'Students who haven’t opened it' }]
        : []),
      ...(someIn
        ? [{ value: 'nothing-in' as const, label: 'Students who haven’t submitted' }]
        : []),
    ]}
    value={to}
    onChoose={onChoose}
  />
);

const MailState = ({
  mail: { state, at, problem },
}: {
  mail: NonNullable<Mailing['students'][number]['lastMail']>;
}) => (
  <Words size="small" tone={state === 'failed' ? 'bad' : state === 'sent' ? 'good' : 'soft'}>
    {state === 'sent'
      ? `Sent ${dateTimeInWords(at)}`
      : state === 'failed'
        ? `Not sent. ${problem ?? ''}`
        : problem === null
          ? 'On its way'
          : `Not taken yet, and tried again: ${problem}`}
  </Words>
);

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  line: { flexDirection: 'row', flexWrap: 'wrap', alignItems: 'center', gap: SPACE.medium },
  words: { flexShrink: 1, flexGrow: 1, paddingVertical: SPACE.hair },
});
