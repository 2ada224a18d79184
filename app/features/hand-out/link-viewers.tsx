import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import type { ShareLink, Viewer } from '@under-chalk/core/contract/share-links';
import type { WatchedByStudent } from '@under-chalk/core/contract/watched';
import { ownTimeOf, withOwnTime, type Grant } from '@under-chalk/core/share-link/grant';
import { codeOf } from '../../data/client';
import { useSetAudience, useViewers } from '../../data/queries';
import { Button } from '../../ui/button';
import { Menu } from '../../ui/menu';
import { dateTimeFromField, dateTimeInWords, dateTimeToField } from '../../ui/date-time';
import { DateTimeField } from '../../ui/date-time-field';
import { ProblemNotice } from '../../ui/notice';
import { Row } from '../../ui/row';
import { Failed, Loading } from '../../ui/screen';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { shareInWords } from './viewing-words';

const viewInWords = ({ firstAt, lastAt, times }: Viewer): string =>
  firstAt === null || lastAt === null
    ? 'Not opened yet'
    : times === 1
      ? `Opened ${dateTimeInWords(firstAt)}`
      : `Opened ${times} times, last ${dateTimeInWords(lastAt)}`;

interface Props {
  readonly shareLink: ShareLink;
  /** How much of it each has watched. */
  readonly watched: readonly WatchedByStudent[];
}

/** Which of the students that it is for have opened it; those who haven't stand first. One can be given longer than the others. */
export const LinkViewers = ({ shareLink, watched }: Props) => {
  const viewers = useViewers(shareLink.id);
  const [longer, setLonger] = useState<string | null>(null);
  if (!viewers.data) {
    return viewers.error ? (
      <Failed code={codeOf(viewers.error)} onRetry={() => void viewers.refetch()} />
    ) : (
      <Loading what="who has opened it" />
    );
  }
  const inOrder = [...viewers.data].sort((a, b) => Number(a.times > 0) - Number(b.times > 0));
  return (
    <View style={styles.group}>
      <View role="list" aria-label="Viewers" style={styles.group}>
        {inOrder.map((one) => {
          const until = ownTimeOf(shareLink.watchers, one.studentId);
          const told = watched.find(({ studentId }) => studentId === one.studentId);
          const share = told ? shareInWords(told) : null;
          return (
            <Row key={one.studentId}>
              <View style={styles.words}>
                <Words strong>{one.name}</Words>
                <Words size="small" tone={one.times > 0 ? 'good' : 'soft'}>
                  {viewInWords(one)}
                </Words>
                {share === null ? null : <Words size="small">{share}</Words>}
                {until === null ? null : (
                  <Words size="small">{`For ${one.name} until ${dateTimeInWords(until)}`}</Words>
                )}
              </View>
              <Menu
                of={one.name}
                items={[{ label: 'Until another day…', onPress: () => setLonger(one.studentId) }]}
              />
              {longer === one.studentId ? (
                <OwnTime shareLink={shareLink} opening={one} onDone={() => setLonger(null)} />
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
  shareLink,
  opening: { studentId, name },
  onDone,
}: {
  shareLink: ShareLink;
  opening: Viewer;
  onDone: () => void;
}) => {
  const letWatch = useSetAudience(shareLink.lessonId);
  const kept = ownTimeOf(shareLink.watchers, studentId);
  const [until, setUntil] = useState(dateTimeToField(kept ?? shareLink.availableUntil));
  const availableUntil = dateTimeFromField(until);
  const grants: Grant[] = shareLink.watchers.map(
    ({ grantee, availableFrom, availableUntil: end }) => ({
      ...{ grantee, availableFrom, availableUntil: end },
    }),
  );
  const set = (at: string | null) =>
    letWatch.mutate(
      { shareLinkId: shareLink.id, grants: withOwnTime(grants, studentId, at) },
      { onSuccess: onDone },
    );
  return (
    <View style={styles.open}>
      <View style={styles.line}>
        <DateTimeField label={`Closes for ${name}`} value={until} onChange={setUntil} />
      </View>
      <View style={styles.line}>
        <Button
          small
          label="Keep this time"
          disabled={availableUntil === null || letWatch.isPending}
          onPress={() => set(availableUntil)}
        />
        {kept === null ? null : (
          <Button
            small
            label="As for the others"
            disabled={letWatch.isPending}
            onPress={() => set(null)}
          />
        )}
        <Button small label="Cancel" onPress={onDone} />
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
