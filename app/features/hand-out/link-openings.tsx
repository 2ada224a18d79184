import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import type { HandOut, Opening } from '@under-chalk/core/contract/hand-outs';
import type { WatchedByStudent } from '@under-chalk/core/contract/watched';
import { ownTimeOf, withOwnTime, type Grant } from '@under-chalk/core/hand-out/grant';
import { codeOf } from '../../data/client';
import { useLetWatch, useOpenings } from '../../data/queries';
import { Button } from '../../ui/button';
import { Menu } from '../../ui/menu';
import { momentFromField, momentInWords, momentToField } from '../../ui/moment';
import { MomentField } from '../../ui/moment-field';
import { ProblemNotice } from '../../ui/notice';
import { Row } from '../../ui/row';
import { Failed, Loading } from '../../ui/screen';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { shareInWords } from './watched-words';

const openingInWords = ({ firstAt, lastAt, times }: Opening): string =>
  firstAt === null || lastAt === null
    ? 'Not opened yet'
    : times === 1
      ? `Opened ${momentInWords(firstAt)}`
      : `Opened ${times} times, last ${momentInWords(lastAt)}`;

interface Props {
  readonly handOut: HandOut;
  /** How much of it each has watched. */
  readonly watched: readonly WatchedByStudent[];
}

/** Which of the students that it is for have opened it; those who haven't stand first. One can be given longer than the others. */
export const LinkOpenings = ({ handOut, watched }: Props) => {
  const openings = useOpenings(handOut.id);
  const [longer, setLonger] = useState<string | null>(null);
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
      <View role="list" aria-label="Who has watched it" style={styles.group}>
        {inOrder.map((one) => {
          const until = ownTimeOf(handOut.watchers, one.studentId);
          const told = watched.find(({ studentId }) => studentId === one.studentId);
          const share = told ? shareInWords(told) : null;
          return (
            <Row key={one.studentId}>
              <View style={styles.words}>
                <Words strong>{one.name}</Words>
                <Words size="small" tone={one.times > 0 ? 'good' : 'soft'}>
                  {openingInWords(one)}
                </Words>
                {share === null ? null : <Words size="small">{share}</Words>}
                {until === null ? null : (
                  <Words size="small">{`For ${one.name} until ${momentInWords(until)}`}</Words>
                )}
              </View>
              <Menu
                of={one.name}
                items={[{ label: 'Until another day…', onPress: () => setLonger(one.studentId) }]}
              />
              {longer === one.studentId ? (
                <OwnTime handOut={handOut} opening={one} onDone={() => setLonger(null)} />
              ) : null}
            </Row>
          );
        })}
      </View>
      <Words size="small" tone="soft">
        Who opens it by a link that is for anyone is counted without a name.
      </Words>
    </View>
  );
};

/** Until when one student can watch it, whatever holds for the others. */
const OwnTime = ({
  handOut,
  opening: { studentId, name },
  onDone,
}: {
  handOut: HandOut;
  opening: Opening;
  onDone: () => void;
}) => {
  const letWatch = useLetWatch(handOut.lessonId);
  const kept = ownTimeOf(handOut.watchers, studentId);
  const [until, setUntil] = useState(momentToField(kept ?? handOut.untilAt));
  const untilAt = momentFromField(until);
  const grants: Grant[] = handOut.watchers.map(({ whom, fromAt, untilAt: end }) => ({
    ...{ whom, fromAt, untilAt: end },
  }));
  const set = (at: string | null) =>
    letWatch.mutate(
      { handOutId: handOut.id, grants: withOwnTime(grants, studentId, at) },
      { onSuccess: onDone },
    );
  return (
    <View style={styles.open}>
      <View style={styles.line}>
        <MomentField label={`Closes for ${name}`} value={until} onChange={setUntil} />
      </View>
      <View style={styles.line}>
        <Button
          small
          label="Keep this time"
          disabled={untilAt === null || letWatch.isPending}
          onPress={() => set(untilAt)}
        />
        {kept === null ? null : (
          <Button
            small
            label="As for the others"
            disabled={letWatch.isPending}
            onPress={() => set(null)}
          />
        )}
        <Button small label="Leave it" onPress={onDone} />
      </View>
      {letWatch.error ? <ProblemNotice code={codeOf(letWatch.error)} /> : null}
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  words: { flexShrink: 1, flexGrow: 1, flexBasis: 180, paddingVertical: SPACE.hair },
  open: { flexBasis: '100%', gap: SPACE.small, paddingBottom: SPACE.small },
  line: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
