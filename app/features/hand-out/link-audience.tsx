import { StyleSheet, View } from 'react-native';
import type { ShareLink } from '@under-chalk/core/contract/share-links';
import { codeOf } from '../../data/client';
import { useSetAudience } from '../../data/queries';
import { Button } from '../../ui/button';
import { ProblemNotice } from '../../ui/notice';
import { SPACE } from '../../ui/theme';
import { useThisLesson } from '../lessons/lesson-layout';
import { AudienceChoice } from './audience-choice';

/** Who may watch what is under a link; each press counts at once. */
export const LinkAudience = ({
  shareLink,
  onDone,
}: {
  shareLink: ShareLink;
  onDone: () => void;
}) => {
  const { lesson } = useThisLesson();
  const letWatch = useSetAudience(shareLink.lessonId);
  return (
    <View style={styles.group}>
      <AudienceChoice
        grants={shareLink.watchers.map(({ grantee, availableFrom, availableUntil }) => ({
          grantee,
          availableFrom,
          availableUntil,
        }))}
        named={shareLink.watchers}
        className={lesson.decisions.plan.className}
        disabled={letWatch.isPending}
        onChange={(grants) => letWatch.mutate({ shareLinkId: shareLink.id, grants })}
      />
      {letWatch.error ? <ProblemNotice code={codeOf(letWatch.error)} /> : null}
      <View style={styles.line}>
        <Button small label="That is all" onPress={onDone} />
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  line: { flexDirection: 'row' },
});
