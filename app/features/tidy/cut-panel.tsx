import { useState } from 'react';
import { StyleSheet, TextInput, View } from 'react-native';
import type { Us } from '@under-chalk/core/time/us';
import { useEdits } from '../../data/edits';
import { Button } from '../../ui/button';
import { Words } from '../../ui/text';
import { FONTS, RADIUS, SPACE, TYPE, useTheme } from '../../ui/theme';
import type { OpenStretch } from './open-stretch';

const STEP_US = 100_000;

interface Props {
  readonly stretch: OpenStretch;
  readonly durationUs: Us;
  readonly onPlay: () => void;
}

/** Fine work on a beat: cuts a stretch of it, to the tenth of a second. */
export const CutPanel = ({ stretch, durationUs, onPlay }: Props) => {
  const { put } = useEdits();
  const [fromUs, setFrom] = useState(stretch.startUs);
  const [toUs, setTo] = useState(stretch.endUs);
  const length = ((toUs - fromUs) / 1e6).toFixed(1);
  return (
    <View style={styles.group}>
      <View style={styles.times}>
        <TimeStepper
          label="Cut from"
          valueUs={fromUs}
          leastUs={0}
          mostUs={toUs - STEP_US}
          onChange={setFrom}
        />
        <TimeStepper
          label="to"
          valueUs={toUs}
          leastUs={fromUs + STEP_US}
          mostUs={durationUs}
          onChange={setTo}
        />
      </View>
      <View style={styles.actions}>
        <Button small label="Play from here" onPress={onPlay} />
        <Button
          small
          kind="grave"
          label={`Cut these ${length} s`}
          onPress={() => put({ do: 'cut', takeId: stretch.takeId, startUs: fromUs, endUs: toUs })}
        />
      </View>
    </View>
  );
};

interface StepperProps {
  readonly label: string;
  readonly valueUs: Us;
  readonly leastUs: Us;
  readonly mostUs: Us;
  readonly onChange: (us: Us) => void;
}

/** A recorded time in seconds: typed, or moved a tenth at a time. */
const TimeStepper = ({ label, valueUs, leastUs, mostUs, onChange }: StepperProps) => {
  const theme = useTheme();
  const [typed, setTyped] = useState<string | null>(null);
  const set = (us: Us) => onChange(Math.round(Math.min(mostUs, Math.max(leastUs, us))));
  const take = () => {
    const seconds = Number((typed ?? '').replace(',', '.'));
    if (typed !== null && typed.trim() !== '' && Number.isFinite(seconds)) set(seconds * 1e6);
    setTyped(null);
  };
  return (
    <View style={styles.stepper}>
      <Words size="small" strong>
        {label}
      </Words>
      <Button
        small
        label="−"
        spoken={`${label}: a tenth earlier`}
        onPress={() => set(valueUs - STEP_US)}
      />
      <TextInput
        aria-label={`${label}, seconds into the take`}
        inputMode="decimal"
        value={typed ?? (valueUs / 1e6).toFixed(1)}
        onChangeText={setTyped}
        onBlur={take}
        onSubmitEditing={take}
        style={[
          styles.input,
          {
            color: theme.ink,
            borderColor: theme.line,
            backgroundColor: theme.paper,
            fontFamily: FONTS.text,
          },
        ]}
      />
      <Button
        small
        label="+"
        spoken={`${label}: a tenth later`}
        onPress={() => set(valueUs + STEP_US)}
      />
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  times: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.medium },
  stepper: { flexDirection: 'row', alignItems: 'center', gap: SPACE.hair },
  input: {
    width: 76,
    minHeight: 44,
    borderWidth: 1.5,
    borderRadius: RADIUS.small,
    textAlign: 'center',
    fontSize: TYPE.body,
  },
  actions: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
