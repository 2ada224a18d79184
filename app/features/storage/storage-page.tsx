import { useMutation, useQueryClient } from '@tanstack/react-query';
import { StyleSheet, View } from 'react-native';
import type { StorageUsed } from '@under-chalk/core/contract/storage';
import { call, codeOf } from '../../data/client';
import { useStorageUsed } from '../../data/queries';
import { useTeacherText } from '../../messages/use-text';
import { Button } from '../../ui/button';
import { Notice, ProblemNotice } from '../../ui/notice';
import { Failed, Loading, Screen } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { BackToLessons } from '../lessons/back-to-lessons';
import { StorageRow } from './storage-row';

/** What takes up the disk, and what of it can go without loss. */
export const StoragePage = () => {
  const taken = useStorageUsed();
  const { t } = useTeacherText();
  return (
    <Screen name={t('storage.title')} head={<BackToLessons />}>
      <Heading level={1}>{t('storage.title')}</Heading>
      {taken.data ? (
        <Taken taken={taken.data} />
      ) : taken.error ? (
        <Failed code={codeOf(taken.error)} onRetry={() => void taken.refetch()} />
      ) : (
        <Loading />
      )}
    </Screen>
  );
};

const Taken = ({ taken }: { taken: StorageUsed }) => {
  const { lessons, cacheBytes, materialBytes, submissionBytes, freeBytes } = taken;
  const client = useQueryClient();
  const { t, size } = useTeacherText();
  const empty = useMutation({
    mutationFn: () => call('emptyCache'),
    onSettled: () => client.invalidateQueries(),
  });
  const all = lessons.reduce(
    (sum, { footageBytes, filmBytes }) => sum + footageBytes + filmBytes,
    0,
  );
  const most = Math.max(1, ...lessons.map((one) => one.footageBytes + one.filmBytes));
  return (
    <>
      <Words>
        {t(submissionBytes > 0 ? 'storage.usedWithSubmissions' : 'storage.used', {
          free: size(freeBytes),
          lessons: size(all),
          materials: size(materialBytes),
          submissions: size(submissionBytes),
        })}
      </Words>
      {empty.error ? <ProblemNotice code={codeOf(empty.error)} /> : null}
      {cacheBytes > 0 ? (
        <View style={styles.held}>
          <Words>{t('storage.cache', { size: size(cacheBytes) })}</Words>
          <Button
            label={t('storage.clearCache')}
            disabled={empty.isPending}
            onPress={() => empty.mutate()}
          />
        </View>
      ) : null}
      {lessons.length === 0 ? (
        <Notice title={t('storage.noLessons')} />
      ) : (
        <>
          <Heading level={2}>{t('storage.lessons')}</Heading>
          <View role="list" aria-label={t('storage.lessons')} style={styles.list}>
            {lessons.map((lesson) => (
              <StorageRow key={lesson.id} lesson={lesson} most={most} />
            ))}
          </View>
        </>
      )}
    </>
  );
};

const styles = StyleSheet.create({
  held: { gap: SPACE.small, alignItems: 'flex-start' },
  list: { gap: SPACE.small },
});
