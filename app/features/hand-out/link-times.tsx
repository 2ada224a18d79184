import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import type { HandOut } from '@under-chalk/core/contract/hand-outs';
import { codeOf } from '../../data/client';
import { useOpenHandOut } from '../../data/queries';
import { Button } from '../../ui/button';
import { momentFromField, momentToField } from '../../ui/moment';
import { MomentField } from '../../ui/moment-field';
import { ProblemNotice } from '../../ui/notice';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';

/** From when and until when a link can be watched. */
export const LinkTimes = ({ handOut, onDone }: { handOut: HandOut; onDone: () => void }) => {
  const open = useOpenHandOut(handOut.lessonId);
  const [from, setFrom] = useState(momentToField(handOut.fromAt));
  const [until, setUntil] = useState(momentToField(handOut.untilAt));
  const [fromAt, untilAt] = [momentFromField(from), momentFromField(until)];
  const backwards = fromAt !== null && untilAt !== null && fromAt >= untilAt;
  const keep = (times: { fromAt: string | null; untilAt: string | null }) =>
    open.mutate({ handOutId: handOut.id, ...times }, { onSuccess: onDone });
  return (
    <View style={styles.times}>
      <View style={styles.line}>
        <MomentField label="Opens" value={from} onChange={setFrom} />
        <MomentField label="Closes" value={until} onChange={setUntil} />
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
          onPress={() => keep({ fromAt, untilAt })}
        />
        <Button
          small
          label="Open, with no end"
          disabled={open.isPending}
          onPress={() => keep({ fromAt: null, untilAt: null })}
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
