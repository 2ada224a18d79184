import { useMutation, useQueryClient } from '@tanstack/react-query';
import { StyleSheet, View } from 'react-native';
import type { JoinedSite } from '@under-chalk/core/contract/course-sites';
import { call, codeOf } from '../../data/client';
import { KEYS } from '../../data/queries';
import { Button } from '../../ui/button';
import { counted } from '../../ui/counted';
import { ProblemNotice } from '../../ui/notice';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';

const inWords = ({ given, waiting, refused }: JoinedSite['scores']): string =>
  [
    `It has been given ${counted(given, 'score')}.`,
    waiting > 0
      ? `${counted(waiting, 'score')} can’t be given just now, and will be tried again.`
      : '',
    refused > 0
      ? `It doesn’t take ${counted(refused, 'score')}: perhaps a column is gone there.`
      : '',
  ]
    .filter(Boolean)
    .join(' ');

/** How giving scores to a course site goes; nothing where it was given none. */
export const SiteScores = ({ site: { id, name, scores } }: { site: JoinedSite }) => {
  const client = useQueryClient();
  const again = useMutation({
    mutationFn: () => call('resendScores', { params: { siteId: id } }),
    // They wait from now on, and the page looks after them for as long as they do.
    onSettled: () => void client.invalidateQueries({ queryKey: KEYS.courseSites }),
  });
  const { given, waiting, refused } = scores;
  if (given + waiting + refused === 0) return null;
  return (
    <View style={styles.group}>
      <View style={styles.line}>
        <Words size="small" tone={waiting + refused > 0 ? 'warn' : 'soft'} role="status">
          {inWords(scores)}
        </Words>
        {waiting + refused > 0 ? (
          <Button
            small
            label="Try again now"
            spoken={`Give ${name} its scores again now`}
            disabled={again.isPending}
            onPress={() => again.mutate()}
          />
        ) : null}
      </View>
      {again.error ? <ProblemNotice code={codeOf(again.error)} /> : null}
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  line: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small, alignItems: 'center' },
});
