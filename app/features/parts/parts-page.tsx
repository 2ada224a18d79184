import { useState, type ReactNode } from 'react';
import { StyleSheet, View } from 'react-native';
import { FREE_DESTINATION } from '@under-chalk/core/destination/destination';
import { formatTenths, parseClock } from '@under-chalk/core/time/us';
import { Button } from '../../ui/button';
import { ChoiceLine } from '../../ui/choice-line';
import { Choices } from '../../ui/choices';
import { Field } from '../../ui/field';
import { LengthGauge } from '../../ui/length-gauge';
import { LevelMeter } from '../../ui/level-meter';
import { Menu } from '../../ui/menu';
import { Notice, ProblemNotice } from '../../ui/notice';
import { ProgressLine } from '../../ui/progress-line';
import { Loading, Screen } from '../../ui/screen';
import { Sheet } from '../../ui/sheet';
import { Slider } from '../../ui/slider';
import { Stepper } from '../../ui/stepper';
import { Heading, Words } from '../../ui/text';
import { LightsDownContext, RADIUS, SPACE, useTheme } from '../../ui/theme';

const SIZES = [
  { value: 'small', label: 'small', hint: 'A sixth of the picture.' },
  { value: 'middling', label: 'middling', hint: 'A quarter of it.' },
  { value: 'none', label: 'not to be had', hint: 'For want of room.', disabled: true },
];

/** Every part of the interface in all its states: for who builds with them, and for the tests. */
export const PartsPage = () => (
  <Screen name="Parts" wide>
    <Heading level={1}>Every part</Heading>
    <View style={styles.sides}>
      {[false, true].map((dark) => (
        <LightsDownContext.Provider key={String(dark)} value={dark}>
          <Side name={dark ? 'Lights down' : 'Daylight'} />
        </LightsDownContext.Provider>
      ))}
      <View {...({ dir: 'rtl' } as object)} style={styles.side}>
        <Side name="Right to left" />
      </View>
    </View>
  </Screen>
);

const Side = ({ name }: { name: string }) => {
  const theme = useTheme();
  return (
    <View style={[styles.side, { backgroundColor: theme.paper, borderColor: theme.line }]}>
      <Heading level={2}>{name}</Heading>
      <Part name="A few, all in sight">
        <ChoicesHere of={name} />
      </Part>
      <Part name="A line with change">
        <LineHere of={name} />
      </Part>
      <Part name="A number with its unit">
        <NumberHere of={name} />
      </Part>
      <Part name="A place on a line">
        <SliderHere of={name} />
      </Part>
      <Part name="Buttons">
        <View style={styles.row}>
          <Button kind="main" label="Main" spoken={`Main, ${name}`} onPress={nothing} />
          <Button label="Plain" spoken={`Plain, ${name}`} onPress={nothing} />
          <Button kind="grave" label="Grave" spoken={`Grave, ${name}`} onPress={nothing} />
          <Button kind="bare" label="Bare" spoken={`Bare, ${name}`} onPress={nothing} />
          <Button label="Not now" spoken={`Not now, ${name}`} disabled onPress={nothing} />
          <SheetHere of={name} />
          <Menu
            of={name}
            items={[
              { label: 'Make a copy', onPress: nothing },
              { label: 'Delete', onPress: nothing, grave: true },
            ]}
          />
        </View>
      </Part>
      <Part name="To type in">
        <FieldsHere of={name} />
      </Part>
      <Part name="What is told">
        <Notice still title="A plain word." text="And what it means." />
        <Notice still tone="good" title="It is done." />
        <Notice still tone="warn" title="Look at this." />
        <ProblemNotice code="disk-full" />
        <ProgressLine done={0.42} doing={`Drawing the pictures, ${name}`} leftUs={65_000_000} />
        <Loading what="what is on its way" />
      </Part>
      <Part name="Length and level">
        <LengthGauge usedUs={200_000_000} destination={LIMITED} attentionUs={300_000_000} />
        <LengthGauge usedUs={700_000_000} destination={LIMITED} attentionUs={300_000_000} />
        <LengthGauge thin usedUs={200_000_000} destination={LIMITED} attentionUs={300_000_000} />
        <LevelMeter now={SPEECH} held={SPEECH} />
      </Part>
    </View>
  );
};

const nothing = () => undefined;
const LIMITED = { ...FREE_DESTINATION, name: 'A place with a limit', mostUs: 600_000_000 };
const SPEECH = { rmsDbfs: -22, peakDbfs: -12 };

const Part = ({ name, children }: { name: string; children: ReactNode }) => (
  <View style={styles.part}>
    <Heading level={3}>{name}</Heading>
    {children}
  </View>
);

const ChoicesHere = ({ of }: { of: string }) => {
  const [value, setValue] = useState('small');
  return (
    <>
      <Choices label={`In a row, ${of}`} choices={SIZES} value={value} onChoose={setValue} />
      <Choices label={`Stacked, ${of}`} stacked choices={SIZES} value={value} onChoose={setValue} />
      <Choices
        label={`Segments, ${of}`}
        segments
        choices={SIZES.slice(0, 2)}
        value={value}
        onChoose={setValue}
      />
    </>
  );
};

const LineHere = ({ of }: { of: string }) => {
  const [value, setValue] = useState('small');
  return (
    <ChoiceLine label={`Size, ${of}`} value={value}>
      <Choices label={`Size, ${of}`} choices={SIZES} value={value} onChoose={setValue} />
    </ChoiceLine>
  );
};

const NumberHere = ({ of }: { of: string }) => {
  const [us, setUs] = useState(62_500_000);
  return (
    <Stepper
      label={`Cut from, ${of}`}
      value={us}
      least={0}
      most={600_000_000}
      step={100_000}
      onChange={setUs}
      format={formatTenths}
      parse={parseClock}
      unit="min:s of the film"
      stepWords={['a tenth earlier', 'a tenth later']}
    />
  );
};

const SliderHere = ({ of }: { of: string }) => {
  const [value, setValue] = useState(30);
  return (
    <>
      <Slider
        label={`How far, ${of}`}
        value={value}
        least={0}
        most={100}
        step={1}
        keyStep={5}
        inWords={(now) => `${now} %`}
        onChange={setValue}
      />
      <Words size="small">{`${value} %`}</Words>
    </>
  );
};

const SheetHere = ({ of }: { of: string }) => {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button label="Sheet" spoken={`Sheet, ${of}`} onPress={() => setOpen(true)} />
      <Sheet title={`A sheet, ${of}`} open={open} onClose={() => setOpen(false)}>
        <Words>What stands in it scrolls; Escape closes it.</Words>
      </Sheet>
    </>
  );
};

const FieldsHere = ({ of }: { of: string }) => {
  const [text, setText] = useState('');
  return (
    <>
      <Field
        label={`A name, ${of}`}
        hint="As students see it."
        value={text}
        onChangeText={setText}
      />
      <Field label={`A secret, ${of}`} secureTextEntry value={text} onChangeText={setText} />
      <Field
        label={`Something wrong, ${of}`}
        problem="It needs a name."
        value={text}
        onChangeText={setText}
      />
    </>
  );
};

const styles = StyleSheet.create({
  sides: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.large },
  side: {
    flexGrow: 1,
    flexBasis: 280,
    maxWidth: '100%',
    borderWidth: 1,
    borderColor: 'transparent',
    borderRadius: RADIUS.large,
    padding: SPACE.small,
    gap: SPACE.large,
  },
  part: { gap: SPACE.small },
  row: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
