import { useMutation, useQueryClient } from '@tanstack/react-query';
import { format } from 'date-fns/format';
import { useRouter } from 'expo-router';
import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { BIN_DAYS, type BinKind, type BinRow } from '@under-chalk/core/contract/bin';
import { megabytes } from '@under-chalk/core/destination/destination';
import { formatSpoken } from '@under-chalk/core/time/us';
import { call, codeOf } from '../../data/client';
import { useBin } from '../../data/queries';
import { Button } from '../../ui/button';
import { useFocusWhen } from '../../ui/focus';
import { Notice, ProblemNotice } from '../../ui/notice';
import { Failed, Loading, Screen } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';
import { BackToLessons } from '../lessons/back-to-lessons';

const KINDS: Record<BinKind, string> = { lesson: 'Lesson', take: 'Take of', film: 'File of' };

/** What was thrown away: to be brought back, or let go for good. */
export const BinPage = () => {
  const bin = useBin();
  const router = useRouter();
  return (
    <Screen name="Bin" head={<BackToLessons />}>
      <Heading level={1}>Bin</Heading>
      <Words tone="soft">
        {`What is thrown away stays here for ${BIN_DAYS} days. Then it goes for good, with its footage.`}
      </Words>
      {bin.data ? (
        bin.data.length === 0 ? (
          <Notice title="The bin is empty.">
            <Button label="Go to the lessons" onPress={() => router.push('/')} />
          </Notice>
        ) : (
          <View role="list" style={styles.list}>
            {bin.data.map((row) => (
              <BinLine key={`${row.kind} ${row.id}`} row={row} />
            ))}
          </View>
        )
      ) : bin.error ? (
        <Failed code={codeOf(bin.error)} onRetry={() => void bin.refetch()} />
      ) : (
        <Loading what="the bin" />
      )}
    </Screen>
  );
};

const BinLine = ({ row }: { row: BinRow }) => {
  const theme = useTheme();
  const client = useQueryClient();
  const [sure, setSure] = useState<'no' | 'asked' | 'not'>('no');
  const press = useMutation({
    mutationFn: (doing: 'restoreFromBin' | 'purgeFromBin') =>
      call(doing, { params: { kind: row.kind, id: row.id } }),
    onSettled: () => client.invalidateQueries(),
  });
  const keep = useFocusWhen(sure === 'asked');
  const asks = useFocusWhen(sure === 'not');
  const name = `${KINDS[row.kind]} “${row.title || 'without a title'}”`;
  return (
    <View
      role="listitem"
      style={[styles.row, { borderColor: theme.line, backgroundColor: theme.card }]}
    >
      <Words strong>{name}</Words>
      <Words size="small" tone="soft">
        {[
          row.lengthUs > 0 ? formatSpoken(row.lengthUs) : null,
          megabytes(row.bytes),
          `goes for good on ${format(new Date(row.goesAt), 'd MMM')}`,
        ]
          .filter(Boolean)
          .join(' · ')}
      </Words>
      {press.error ? <ProblemNotice code={codeOf(press.error)} /> : null}
      <View style={styles.buttons}>
        {sure === 'asked' ? (
          <>
            <Button small ref={keep} label="Keep it here" onPress={() => setSure('not')} />
            <Button
              small
              kind="grave"
              label="Yes, for good"
              spoken={`Yes, let ${name} go for good`}
              disabled={press.isPending}
              onPress={() => press.mutate('purgeFromBin')}
            />
          </>
        ) : (
          <>
            <Button
              small
              label="Restore"
              spoken={`Bring back ${name}`}
              disabled={press.isPending}
              onPress={() => press.mutate('restoreFromBin')}
            />
            <Button
              small
              kind="bare"
              ref={asks}
              label="Delete for good…"
              spoken={`Let ${name} go now`}
              onPress={() => setSure('asked')}
            />
          </>
        )}
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  list: { gap: SPACE.small },
  row: { borderWidth: 1, borderRadius: RADIUS.medium, padding: SPACE.medium, gap: SPACE.hair },
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.large },
});
