import { StyleSheet, View } from 'react-native';
import type { HandOut, Opening } from '@under-chalk/core/contract/hand-outs';
import { codeOf } from '../../data/client';
import { useOpenings } from '../../data/queries';
import { momentInWords } from '../../ui/moment';
import { Row } from '../../ui/row';
import { Failed, Loading } from '../../ui/screen';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';

const openingInWords = ({ firstAt, lastAt, times }: Opening): string =>
  firstAt === null || lastAt === null
    ? 'Not opened yet'
    : times === 1
      ? `Opened ${momentInWords(firstAt)}`
      : `Opened ${times} times, last ${momentInWords(lastAt)}`;

/** Which of the students that it is for have opened it; those who haven't stand first. */
export const LinkOpenings = ({ handOut }: { handOut: HandOut }) => {
  const openings = useOpenings(handOut.id);
  if (!openings.data) {
    return openings.error ? (
      <Failed code={codeOf(openings.error)} onRetry={() => void openings.refetch()} />
    ) : (
      <Loading what="who has opened it" />
    );
  }
  const inOrder = [...openings.data].sort((a, b) => Number(a.times > 0) - Number(b.times > 0));
  return (
    <View style={styles.group}>
      <View role="list" aria-label="Who has opened it" style={styles.group}>
        {inOrder.map((one) => (
          <Row key={one.studentId}>
            <View style={styles.words}>
              <Words strong>{one.name}</Words>
              <Words size="small" tone={one.times > 0 ? 'good' : 'soft'}>
                {openingInWords(one)}
              </Words>
            </View>
          </Row>
        ))}
      </View>
      <Words size="small" tone="soft">
        Who opens it by a link that is for anyone isn’t counted.
      </Words>
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  words: { flexShrink: 1, flexGrow: 1, paddingVertical: SPACE.hair },
});
