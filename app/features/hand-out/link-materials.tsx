import { StyleSheet, View } from 'react-native';
import type { ShareLink } from '@under-chalk/core/contract/share-links';
import { calledName } from '@under-chalk/core/material/material';
import { codeOf } from '../../data/client';
import { useSetAttachments, useMaterials } from '../../data/queries';
import { Button } from '../../ui/button';
import { ProblemNotice } from '../../ui/notice';
import { Row } from '../../ui/row';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';

/** Chooses which of the lesson's materials students may save from the page; none at first. */
export const LinkMaterials = ({ shareLink }: { shareLink: ShareLink }) => {
  const { data = [] } = useMaterials(shareLink.lessonId);
  const give = useSetAttachments(shareLink.lessonId);
  const ready = data.filter(({ state }) => state === 'ready');
  const given = new Set(shareLink.materials);
  const change = (id: string) =>
    give.mutate({
      shareLinkId: shareLink.id,
      materials: given.has(id)
        ? shareLink.materials.filter((one) => one !== id)
        : [...shareLink.materials, id],
    });
  if (ready.length === 0) {
    return <Words size="small">The lesson has no materials. They are brought in under Plan.</Words>;
  }
  return (
    <View style={styles.group}>
      <Words size="small" tone="soft">
        Students save them as they were brought in.
      </Words>
      <View role="list" aria-label="Materials that go along" style={styles.group}>
        {ready.map(({ id, name }) => (
          <Row key={id}>
            <View style={styles.words}>
              <Words>{calledName(name)}</Words>
              {given.has(id) ? (
                <Words size="small" tone="good">
                  Goes along
                </Words>
              ) : null}
            </View>
            <Button
              small
              label={given.has(id) ? 'Keep it back' : 'Give it'}
              spoken={`${given.has(id) ? 'Keep back' : 'Give'} ${calledName(name)}`}
              disabled={give.isPending}
              onPress={() => change(id)}
            />
          </Row>
        ))}
      </View>
      {give.error ? <ProblemNotice code={codeOf(give.error)} /> : null}
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  words: { flexShrink: 1, flexGrow: 1 },
});
