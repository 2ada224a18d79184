import type { ReactNode } from 'react';
import { StyleSheet, View } from 'react-native';
import type { Crop } from '@under-chalk/core/lesson/crop';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import type { Take } from '@under-chalk/core/lesson/take';
import { Button } from '../../ui/button';
import { useFocusWhen } from '../../ui/focus';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { DrawnPart } from './drawn-part';

interface Props {
  readonly lesson: Lesson;
  readonly take: Take;
  readonly of?: 'surface' | 'camera';
  readonly alt: string;
  readonly hint: string;
  readonly part: Crop;
  readonly onPart: (part: Crop) => void;
  /** What the button says that shows the part. */
  readonly label: string;
  readonly onShow: () => void;
  /** Shows all of it again; null: it does already. */
  readonly onAll: (() => void) | null;
  readonly onLeave: () => void;
  readonly children?: ReactNode;
}

/** A part of a take's picture drawn on all of it, and what is to be done with it. */
export const PartPanel = (props: Props) => {
  const { lesson, take, of = 'surface', alt, hint, part, label, children } = props;
  const { onPart, onShow, onAll, onLeave } = props;
  const first = useFocusWhen(true);
  return (
    <View style={styles.group}>
      <DrawnPart {...{ lesson, take, of, alt, part, onPart }} atUs={take.durationUs / 2} />
      <Words size="small" tone="soft">
        {hint}
      </Words>
      {children}
      <View style={styles.buttons}>
        <Button ref={first} small kind="main" label={label} onPress={onShow} />
        {onAll ? <Button small label="Show all of it" onPress={onAll} /> : null}
        <Button small label="Leave it as it was" onPress={onLeave} />
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
