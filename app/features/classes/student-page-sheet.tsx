import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import type { StudentPage } from '@under-chalk/core/contract/student-pages';
import { call, codeOf } from '../../data/client';
import { KEYS } from '../../data/queries';
import { COPIED_WORDS, copyText, type Copied } from '../../ui/copy-text';
import { Button } from '../../ui/button';
import { CodePicture } from '../../ui/code-picture';
import { CheckRow } from '../../ui/check-row';
import { ProblemNotice } from '../../ui/notice';
import { Failed, Loading } from '../../ui/screen';
import { Sheet } from '../../ui/sheet';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { pageAddress } from './page-address';

interface Props {
  readonly studentId: string;
  readonly name: string;
  readonly onClose: () => void;
}

/** A student's own page: its address to be passed on, and what can be done about it. */
export const StudentPageSheet = ({ studentId, name, onClose }: Props) => {
  const params = { studentId };
  const page = useQuery({
    queryKey: KEYS.studentPage(studentId),
    // Given where there is none.
    queryFn: () => call('studentPage', { params }),
    staleTime: 0,
  });
  return (
    <Sheet title={`The page of ${name}`} open onClose={onClose}>
      {page.data ? (
        <Shown page={page.data} />
      ) : page.error ? (
        <Failed code={codeOf(page.error)} onRetry={() => void page.refetch()} />
      ) : (
        <Loading what="the page" />
      )}
    </Sheet>
  );
};

const Shown = ({ page }: { page: StudentPage }) => {
  const client = useQueryClient();
  const { studentId, name, key, away, number } = page;
  const [copied, setCopied] = useState<Copied>('no');
  const [renewing, setRenewing] = useState(false);
  const params = { studentId };
  const change = useMutation({
    mutationFn: (work: () => Promise<StudentPage>) => work(),
    onSuccess: (now) => {
      client.setQueryData(KEYS.studentPage(studentId), now);
      setCopied('no');
      setRenewing(false);
    },
  });
  const setOpen = (open: boolean) =>
    change.mutate(() => call('openPage', { params, body: { open } }));
  const renew = () => change.mutate(() => call('renewPage', { params }));
  const problem = change.error ? <ProblemNotice code={codeOf(change.error)} /> : null;
  if (away) {
    return (
      <View style={styles.group}>
        <Words>{`The page is taken away. ${name} sees nothing any more, neither there nor by the addresses of films on it.`}</Words>
        <View style={styles.buttons}>
          <Button label="Give it back" disabled={change.isPending} onPress={() => setOpen(true)} />
          <Button label="Give a new address" disabled={change.isPending} onPress={renew} />
        </View>
        {problem}
      </View>
    );
  }
  return (
    <View style={styles.group}>
      <Words>{`All films for ${name} are here, without an account. Whoever has the address can watch them.`}</Words>
      {key ? (
        <>
          <Words strong selectable testID="page-address" style={styles.address}>
            {pageAddress(key)}
          </Words>
          <View style={styles.buttons}>
            <Button
              kind="main"
              label="Copy the address"
              onPress={() => void copyText(pageAddress(key)).then(setCopied)}
            />
          </View>
          <Words size="small" role="status">
            {COPIED_WORDS[copied]}
          </Words>
          <CodePicture address={pageAddress(key)} title={`The page of ${name}`} />
        </>
      ) : (
        <Words tone="warn">
          It works, but its address can’t be shown any more. Give a new one to pass on.
        </Words>
      )}
      <CheckRow
        label="Ask for a number"
        hint="Six digits, for an address that may be passed on"
        checked={number !== null}
        disabled={change.isPending}
        onChange={(asked) => change.mutate(() => call('askNumber', { params, body: { asked } }))}
      />
      {number === null ? null : (
        <Words>
          {`The number of ${name} is `}
          <Words strong selectable testID="page-number">
            {number}
          </Words>
          {'. Tell it some other way than the address.'}
        </Words>
      )}
      {renewing ? (
        <View style={styles.group}>
          <Words>{`The address that ${name} has now leads nowhere from then on.`}</Words>
          <View style={styles.buttons}>
            <Button label="Keep the old one" onPress={() => setRenewing(false)} />
            <Button
              kind="grave"
              label="Yes, a new address"
              disabled={change.isPending}
              onPress={renew}
            />
          </View>
        </View>
      ) : (
        <View style={styles.buttons}>
          <Button small label="Give a new address" onPress={() => setRenewing(true)} />
          <Button
            small
            kind="grave"
            label="Take the page away"
            disabled={change.isPending}
            onPress={() => setOpen(false)}
          />
        </View>
      )}
      {problem}
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.medium },
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
  address: { ...({ overflowWrap: 'anywhere' } as object) },
});
