import { StyleSheet, View } from 'react-native';
import { useEdits } from '../../data/edits';
import { Button } from '../../ui/button';
import { useLayout } from '../../ui/layout';
import { Menu } from '../../ui/menu';
import { SPACE } from '../../ui/theme';
import { secondsOf } from './open-stretch';
import { useTidy, useTidying } from './tidying';
import { useCut } from './use-cut';
import type { Column } from './use-columns';

/** A mark is shown with what came so long before it: one that is set for a stretch leads to its beginning, µs. */
const MARK_AFTER_US = 3_000_000;

/** What can be done with what is chosen, at the thumb; and how far it reaches. */
export const ChosenBar = ({ columns }: { columns: readonly Column[] }) => {
  const chosen = useTidy(({ open }) => open);
  const tidying = useTidying();
  const cut = useCut();
  const { put } = useEdits();
  const { beside } = useLayout();
  if (!chosen) return null;
  const { takeId, placementId, startUs, endUs } = chosen;
  const rows = columns.find(({ placed }) => placed.id === placementId)?.rows ?? [];
  const phrases = rows.filter(({ kind }) => kind === 'phrase');
  const [first, last] = [phrases[0], phrases.at(-1)];
  const turnUs = tidying.turnAfter(takeId, startUs);
  const choose = (from: number, to: number) =>
    tidying.choose({ ...chosen, startUs: from, endUs: to });
  const seconds = secondsOf(chosen);
  return (
    <View
      role="group"
      aria-label="What is chosen"
      style={[styles.bar, beside ? styles.inLine : styles.across]}
    >
      <Button
        small
        grow
        label="Hear it cut"
        spoken="Hear it cut: what it would be without this"
        onPress={() => tidying.hearJoin(chosen)}
      />
      <Button
        small
        grow
        label="Move"
        spoken="Move it elsewhere in the film"
        onPress={() => tidying.carry(chosen)}
      />
      <Button
        small
        grow
        kind="grave"
        label={`Cut ${seconds} s`}
        spoken={`Cut what is chosen, ${seconds} seconds`}
        onPress={() => cut(chosen)}
      />
      <Menu
        of="what is chosen"
        items={[
          ...(turnUs !== null
            ? [{ label: 'Until the page turns', onPress: () => choose(startUs, turnUs) }]
            : []),
          ...(last && last.endUs > endUs
            ? [{ label: 'To the end of the take', onPress: () => choose(startUs, last.endUs) }]
            : []),
          ...(first && last
            ? [{ label: 'All of the take', onPress: () => choose(first.startUs, last.endUs) }]
            : []),
          {
            label: 'Mark it, to come back to',
            onPress: () =>
              put({ do: 'mark-flub', takeId, atUs: Math.min(endUs, startUs + MARK_AFTER_US) }),
          },
        ]}
      />
    </View>
  );
};

const styles = StyleSheet.create({
  bar: { flexDirection: 'row', alignItems: 'center', gap: SPACE.hair },
  inLine: { flexGrow: 1, minWidth: 380, maxWidth: 460 },
  across: { width: '100%' },
});
