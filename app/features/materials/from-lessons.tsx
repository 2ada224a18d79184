import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import type { Material } from '@under-chalk/core/material/material';
import { codeOf } from '../../data/client';
import { useKeptMaterials } from '../../data/queries';
import { Button } from '../../ui/button';
import { ProblemNotice } from '../../ui/notice';
import { Sheet } from '../../ui/sheet';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { useThisLesson } from '../lessons/lesson-layout';
import { KeptRow } from './kept-row';
import { useBringAgain } from './use-bring-again';

/** Brings in what another lesson has: of the same class first. Nothing is sent again. */
export const FromLessons = ({ has }: { has: readonly Material[] }) => {
  const { lesson } = useThisLesson();
  const [open, setOpen] = useState(false);
  const { data, error } = useKeptMaterials(open);
  const bring = useBringAgain(() => setOpen(false));
  const here = new Set(has.map(({ content }) => content));
  const { className } = lesson.decisions.plan;
  const others = (data ?? [])
    .filter(({ content }) => !here.has(content))
    .sort((a, b) => Number(b.className === className) - Number(a.className === className));
  const problem = error ?? bring.error;
  return (
    <>
      <Button small label="From another lesson" expanded={open} onPress={() => setOpen(true)} />
      <Sheet title="From another lesson" open={open} onClose={() => setOpen(false)}>
        {problem ? <ProblemNotice code={codeOf(problem)} /> : null}
        {data && others.length === 0 ? (
          <Words>No other lesson has any that aren’t here.</Words>
        ) : null}
        {others.length > 0 ? (
          <View role="list" aria-label="Materials of other lessons" style={styles.list}>
            {others.map((one) => (
              <KeptRow
                key={one.id}
                kept={one}
                from={one.lesson}
                onBring={() => bring.mutate(one.id)}
              />
            ))}
          </View>
        ) : null}
      </Sheet>
    </>
  );
};

const styles = StyleSheet.create({
  list: { gap: SPACE.small },
});
