import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import type { ShareLink } from '@under-chalk/core/contract/share-links';
import { codeOf } from '../../data/client';
import { useCreateOpenLink } from '../../data/queries';
import { Button } from '../../ui/button';
import { dateTimeFromField, dateTimeToField } from '../../ui/date-time';
import { DateTimeField } from '../../ui/date-time-field';
import { ProblemNotice } from '../../ui/notice';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';

/** From when and until when a link can be watched. */
export const LinkTimes = ({ shareLink, onDone }: { shareLink: ShareLink; onDone: () => void }) => {
  const open = useCreateOpenLink(shareLink.lessonId);
  const [from, setFrom] = useState(dateTimeToField(shareLink.availableFrom));
  const [until, setUntil] = useState(dateTimeToField(shareLink.availableUntil));
  const [availableFrom, availableUntil] = [dateTimeFromField(from), dateTimeFromField(until)];
  const backwards =
    availableFrom !== null && availableUntil !== null && availableFrom >= availableUntil;
  const keep = (times: { availableFrom: string | null; availableUntil: string | null }) =>
    open.mutate({ shareLinkId: shareLink.id, ...times }, { onSuccess: onDone });
  return (
    <View style={styles.times}>
      <View style={styles.line}>
        <DateTimeField label="Opens" value={from} onChange={setFrom} />
        <DateTimeField label="Closes" value={until} onChange={setUntil} />
      </View>
      <Words size="small" tone={backwards ? 'warn' : 'soft'} role="status">
        {backwards
          ? 'It would close before it opens.'
          : 'Left empty, it is open at once, and stays open. Before it opens, students are told when it will.'}
      </Words>
      <View style={styles.line}>
        <Button
          small
          label="Keep these times"
          disabled={backwards || open.isPending}
          onPress={() => keep({ availableFrom, availableUntil })}
        />
        <Button
          small
          label="Open, with no end"
          disabled={open.isPending}
          onPress={() => keep({ availableFrom: null, availableUntil: null })}
        />
      </View>
      {open.error ? <ProblemNotice code={codeOf(open.error)} /> : null}
    </View>
  );
};

const styles = StyleSheet.create({
  times: { gap: SPACE.small },
  line: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small, alignItems: 'flex-end' },
});
