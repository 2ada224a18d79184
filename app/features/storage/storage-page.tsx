import { useMutation, useQueryClient } from '@tanstack/react-query';
import { StyleSheet, View } from 'react-native';
import { megabytesInWords } from '@under-chalk/core/destination/destination';
import type { StorageUsed } from '@under-chalk/core/contract/storage';
import { call, codeOf } from '../../data/client';
import { useStorageUsed } from '../../data/queries';
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
  return (
    <Screen name="Storage" head={<BackToLessons />}>
      <Heading level={1}>Storage</Heading>
      {taken.data ? (
        <Taken taken={taken.data} />
      ) : taken.error ? (
        <Failed code={codeOf(taken.error)} onRetry={() => void taken.refetch()} />
      ) : (
        <Loading what="what takes up room" />
      )}
    </Screen>
  );
};

const Taken = ({ taken }: { taken: StorageUsed }) => {
  const { lessons, cacheBytes, materialBytes, submissionBytes, freeBytes } = taken;
  const client = useQueryClient();
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
        {`${megabytesInWords(freeBytes)} of the disk are free. Lessons take up ${megabytesInWords(all)}, their materials ${megabytesInWords(materialBytes)}${submissionBytes > 0 ? `, what students have handed in ${megabytesInWords(submissionBytes)}` : ''}.`}
      </Words>
      {empty.error ? <ProblemNotice code={codeOf(empty.error)} /> : null}
      {cacheBytes > 0 ? (
        <View style={styles.held}>
          <Words>
            {`${megabytesInWords(cacheBytes)} are only held to be quick. Without them the next film of each lesson takes longer once.`}
          </Words>
          <Button
            label={`Let them go`}
            spoken="Let go what is only held to be quick"
            disabled={empty.isPending}
            onPress={() => empty.mutate()}
          />
        </View>
      ) : null}
      {lessons.length === 0 ? (
        <Notice title="There are no lessons yet." />
      ) : (
        <>
          <Heading level={2}>Lessons, the largest first</Heading>
          <View role="list" aria-label="Lessons, the largest first" style={styles.list}>
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
