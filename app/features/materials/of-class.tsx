import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { calledName, type ClassMaterial, type Material } from '@under-chalk/core/material/material';
import { call, codeOf } from '../../data/client';
import { KEYS, useClassMaterials } from '../../data/queries';
import { Button } from '../../ui/button';
import { focusOn } from '../../ui/focus';
import { Notice, ProblemNotice } from '../../ui/notice';
import { Heading, Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { useThisLesson } from '../lessons/lesson-layout';
import { KeptRow } from './kept-row';
import { useBringAgain } from './use-bring-again';

/** Something is done to what the lesson's class keeps, and the list is fetched anew. */
const useClassWork = <T,>(work: (what: T, className: string) => Promise<unknown>) => {
  const { className } = useThisLesson().lesson.decisions.plan;
  const client = useQueryClient();
  return useMutation({
    mutationFn: (what: T) => work(what, className),
    onSettled: () => client.invalidateQueries({ queryKey: KEYS.classMaterials(className) }),
  });
};

/** Keeps a material of the lesson for its class; says so where that is done. Nothing for a lesson of no class. */
export const KeepForClass = ({ material: { id, name, content } }: { material: Material }) => {
  const { className } = useThisLesson().lesson.decisions.plan;
  const { data } = useClassMaterials(className);
  const keep = useClassWork<string>((materialId, of) =>
    call('keepForClass', { params: { materialId }, body: { className: of } }),
  );
  if (className === '' || !data) return null;
  if (data.some((one) => one.content === content)) {
    return (
      <Words size="small" tone="soft" role="status">
        Kept for the class
      </Words>
    );
  }
  return (
    <>
      <Button
        small
        label="Keep for the class"
        spoken={`Keep ${calledName(name)} for the class`}
        onPress={() => keep.mutate(id)}
      />
      {keep.error ? <ProblemNotice code={codeOf(keep.error)} /> : null}
    </>
  );
};

/** What the lesson's class keeps and this lesson hasn't yet. */
export const OfClass = ({ has }: { has: readonly Material[] }) => {
  const { className } = useThisLesson().lesson.decisions.plan;
  const { data = [] } = useClassMaterials(className);
  const [gone, setGone] = useState<ClassMaterial | null>(null);
  const bring = useBringAgain(() => {});
  const change = useClassWork<{ of: ClassMaterial; kept: boolean }>(({ of, kept }) =>
    call('changeClassMaterial', { params: { materialId: of.id }, body: { kept } }),
  );
  const here = new Set(has.map(({ content }) => content));
  const others = data.filter(({ content }) => !here.has(content));
  const isGone = gone !== null && !data.some(({ id }) => id === gone.id);
  const problem = bring.error ?? change.error;
  if (others.length === 0 && !isGone) return null;
  const title = `Kept for ${className}`;
  return (
    <View style={styles.list}>
      <Heading level={3}>{title}</Heading>
      {problem ? <ProblemNotice code={codeOf(problem)} /> : null}
      <View role="list" aria-label={title} style={styles.list}>
        {others.map((one) => (
          <KeptRow key={one.id} kept={one} onBring={() => bring.mutate(one.id)}>
            <Button
              small
              label="Keep no longer"
              spoken={`Keep ${calledName(one.name)} no longer`}
              onPress={() =>
                change.mutate({ of: one, kept: false }, { onSuccess: () => setGone(one) })
              }
            />
          </KeptRow>
        ))}
      </View>
      {isGone ? (
        <Notice
          title={`${calledName(gone.name)} is no longer kept for the class.`}
          text="Lessons that have it keep it."
        >
          <View ref={(view) => void (view && focusOn(view))} tabIndex={-1} />
          <Button
            small
            label="Keep it after all"
            onPress={() =>
              change.mutate({ of: gone, kept: true }, { onSuccess: () => setGone(null) })
            }
          />
        </Notice>
      ) : null}
    </View>
  );
};

const styles = StyleSheet.create({
  list: { gap: SPACE.small },
});
