import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useRouter } from 'expo-router';
import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { BIN_DAYS, type BinKind, type BinRow } from '@under-chalk/core/contract/bin';
import { call, codeOf } from '../../data/client';
import { useBin } from '../../data/queries';
import { useTeacherText } from '../../messages/use-text';
import { Button } from '../../ui/button';
import { useFocusWhen } from '../../ui/focus';
import { Notice, ProblemNotice } from '../../ui/notice';
import { Failed, Loading, Screen } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';
import { BackToLessons } from '../lessons/back-to-lessons';

const NAMES = {
  lesson: 'bin.lesson',
  take: 'bin.take',
  film: 'bin.film',
} as const satisfies Record<BinKind, string>;

/** Deleted lessons, takes and files: restores them or deletes them for good. */
export const BinPage = () => {
  const bin = useBin();
  const { t } = useTeacherText();
  const router = useRouter();
  return (
    <Screen name={t('bin.title')} head={<BackToLessons />}>
      <Heading level={1}>{t('bin.title')}</Heading>
      <Words tone="soft">{t('bin.help', { days: BIN_DAYS })}</Words>
      {bin.data ? (
        bin.data.length === 0 ? (
          <Notice title={t('bin.empty')}>
            <Button label={t('bin.goToLessons')} onPress={() => router.push('/')} />
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
        <Loading />
      )}
    </Screen>
  );
};

const BinLine = ({ row }: { row: BinRow }) => {
  const theme = useTheme();
  const { t, size, length, day } = useTeacherText();
  const client = useQueryClient();
  const [sure, setSure] = useState<'no' | 'asked' | 'not'>('no');
  const press = useMutation({
    mutationFn: (doing: 'restoreFromBin' | 'purgeFromBin') =>
      call(doing, { params: { kind: row.kind, id: row.id } }),
    onSettled: () => client.invalidateQueries(),
  });
  const keep = useFocusWhen(sure === 'asked');
  const asks = useFocusWhen(sure === 'not');
  const name = t(NAMES[row.kind], { title: row.title || t('bin.untitled') });
  return (
    <View
      role="listitem"
      style={[styles.row, { borderColor: theme.line, backgroundColor: theme.card }]}
    >
      <Words strong>{name}</Words>
      <Words size="small" tone="soft">
        {[
          row.lengthUs > 0 ? length(row.lengthUs) : null,
          row.bytes > 0 ? size(row.bytes) : null,
          t('bin.goesOn', { date: day(row.goesAt) }),
        ]
          .filter(Boolean)
          .join(' · ')}
      </Words>
      {press.error ? <ProblemNotice code={codeOf(press.error)} /> : null}
      <View style={styles.buttons}>
        {sure === 'asked' ? (
          <>
            <Button small ref={keep} label={t('bin.keep')} onPress={() => setSure('not')} />
            <Button
              small
              kind="grave"
              label={t('bin.purgeSure')}
              spoken={t('bin.purgeSureIt', { name })}
              disabled={press.isPending}
              onPress={() => press.mutate('purgeFromBin')}
            />
          </>
        ) : (
          <>
            <Button
              small
              label={t('bin.restore')}
              spoken={t('bin.restoreIt', { name })}
              disabled={press.isPending}
              onPress={() => press.mutate('restoreFromBin')}
            />
            <Button
              small
              kind="bare"
              ref={asks}
              label={t('bin.purge')}
              spoken={t('bin.purgeIt', { name })}
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
