import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import type { HandOut } from '@under-chalk/core/contract/hand-outs';
import {
  MOST_NOTE,
  reachedBy,
  type LettersTo,
  type Mailing,
} from '@under-chalk/core/contract/mail';
import { call, codeOf } from '../../data/client';
import { askAgain, KEYS } from '../../data/queries';
import { Button } from '../../ui/button';
import { Choices } from '../../ui/choices';
import { counted } from '../../ui/counted';
import { Field } from '../../ui/field';
import { momentInWords } from '../../ui/moment';
import { ProblemNotice } from '../../ui/notice';
import { Row } from '../../ui/row';
import { Failed, Loading } from '../../ui/screen';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { PracticeLink } from '../mail/practice-link';

const isWaiting = ({ students }: Mailing): boolean =>
  students.some(({ letter }) => letter?.state === 'waiting' && letter.problem === null);

const ownTimeZone = (): string => new Intl.DateTimeFormat().resolvedOptions().timeZone;

/** Writes to those that it is for, one letter each, and tells what came of the last ones. */
export const LinkLetters = ({ handOut }: { handOut: HandOut }) => {
  const params = { handOutId: handOut.id };
  const client = useQueryClient();
  const mailing = useQuery({
    queryKey: KEYS.letters(handOut.id),
    queryFn: () => call('mailing', { params }),
    staleTime: 0,
    refetchInterval: ({ state }) =>
      askAgain(state.data ? isWaiting(state.data) : false, state.error),
  });
  const [note, setNote] = useState('');
  const [to, setTo] = useState<LettersTo>('all');
  const write = useMutation({
    mutationFn: () => call('writeLetters', { params, body: { to, note, timeZone: ownTimeZone() } }),
    onSuccess: (now) => {
      client.setQueryData(KEYS.letters(handOut.id), now);
      setNote('');
    },
  });
  if (!mailing.data) {
    return mailing.error ? (
      <Failed code={codeOf(mailing.error)} onRetry={() => void mailing.refetch()} />
    ) : (
      <Loading what="whom it is for" />
    );
  }
  const { students, practice } = mailing.data;
  const reached = reachedBy(to, students);
  const someOpened = students.some(({ opened }) => opened);
  const someIn = students.some(({ handedIn }) => handedIn);
  const unreachable = students.filter(({ reachable }) => !reachable).map(({ name }) => name);
  const again = reached.length > 0 && reached.every(({ letter }) => letter?.state === 'sent');
  const written = students.filter(({ letter }) => letter !== null);
  return (
    <View style={styles.group}>
      {someOpened || someIn ? (
        <Choices
          label="To whom"
          choices={[
            { value: 'all', label: 'All whom it is for' },
            ...(someOpened ? [{ value: 'unopened' as const, label: 'Who hasn’t opened it' }] : []),
            ...(someIn
              ? [{ value: 'nothing-in' as const, label: 'Who has handed nothing in' }]
              : []),
          ]}
          value={to}
          onChoose={setTo}
        />
      ) : null}
      <Field
        label="What you want to say"
        hint="May be left empty: where the film is stands in each letter."
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
          ? 'Each has one alone. Letters go to the practice mailbox until you give your mail server under You.'
          : 'Each has one alone; nobody sees who else it is for.'}
      </Words>
      <View style={styles.line}>
        <Button
          small
          kind={again ? 'plain' : 'main'}
          label={
            reached.length === 0
              ? 'Nobody to write to'
              : `Send ${counted(reached.length, 'letter')}${again ? ' once more' : ''}`
          }
          disabled={reached.length === 0 || write.isPending}
          onPress={() => write.mutate()}
        />
        {practice ? <PracticeLink /> : null}
      </View>
      {write.error ? <ProblemNotice code={codeOf(write.error)} /> : null}
      {written.length > 0 ? (
        <View role="list" aria-label="Letters" style={styles.group}>
          {written.map(({ studentId, name, letter }) => (
            <Row key={studentId}>
              <View style={styles.words}>
                <Words strong>{name}</Words>
                <LetterState letter={letter!} />
              </View>
            </Row>
          ))}
        </View>
      ) : null}
    </View>
  );
};

const LetterState = ({
  letter: { state, at, problem },
}: {
  letter: NonNullable<Mailing['students'][number]['letter']>;
}) => (
  <Words size="small" tone={state === 'failed' ? 'bad' : state === 'sent' ? 'good' : 'soft'}>
    {state === 'sent'
      ? `Sent ${momentInWords(at)}`
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
