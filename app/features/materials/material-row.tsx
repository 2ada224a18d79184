import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { errorText } from '@under-chalk/core/errors/errors';
import { calledName, type Material } from '@under-chalk/core/material/material';
import { call, codeOf } from '../../data/client';
import { pictureAddress } from '../../data/page-pictures';
import { KEYS, useMaterialWords } from '../../data/queries';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { focusOn } from '../../ui/focus';
import { Notice, ProblemNotice } from '../../ui/notice';
import { Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';
import { useThisLesson } from '../lessons/lesson-layout';
import { KeepForClass } from './of-class';
import { pagesInWords } from './pages-in-words';
import { canStraighten, Straighten } from './straighten';

/** Something of a lesson's materials is done to one, and the list is fetched anew. */
const useMaterialWork = (name: 'removeMaterial' | 'restoreMaterial' | 'readMaterial') => {
  const { lesson } = useThisLesson();
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (materialId: string) => void (await call(name, { params: { materialId } })),
    onSettled: () => client.invalidateQueries({ queryKey: KEYS.materials(lesson.id) }),
  });
};

interface RowProps {
  readonly material: Material;
  readonly onRemoved: (material: Material) => void;
  /** Brings a file in. @returns whether it has come */
  readonly onBring: (files: readonly File[]) => Promise<boolean>;
}

/** A material of a lesson: what it is, or what is wrong with it. */
export const MaterialRow = ({ material, onRemoved, onBring }: RowProps) => {
  const theme = useTheme();
  const remove = useMaterialWork('removeMaterial');
  const read = useMaterialWork('readMaterial');
  const { id, name, state, problem, content } = material;
  const told = problem ? errorText(problem) : null;
  /** Another file takes its place, once it has come; this one is kept, as all that is taken out. */
  const takePlace = async (file: File) => {
    if (await onBring([file])) remove.mutate(id, { onSuccess: () => onRemoved(material) });
  };
  return (
    <View role="listitem" style={[styles.row, { borderColor: theme.line }]}>
      {state === 'ready' && content ? (
        <img
          src={pictureAddress({ content, page: 0 }, 480)}
          alt=""
          style={{ ...THUMB, borderColor: theme.line }}
        />
      ) : (
        <View style={[styles.noThumb, { backgroundColor: theme.line }]} />
      )}
      <View style={styles.words}>
        <Words strong numberOfLines={2}>
          {calledName(name)}
        </Words>
        <Words size="small" tone={told ? 'bad' : 'soft'} {...(told ? { role: 'status' } : {})}>
          {told
            ? `${told.message} ${told.hint}`
            : state === 'ready'
              ? pagesInWords(material.aspects.length)
              : state === 'reading'
                ? 'Being opened…'
                : 'It hasn’t come whole. Take it out, and bring it in again.'}
        </Words>
        {read.error || remove.error ? (
          <ProblemNotice code={codeOf(read.error ?? remove.error)} />
        ) : null}
      </View>
      {state === 'ready' && material.aspects.length === 1 ? (
        <Described material={material} />
      ) : null}
      <View style={styles.buttons}>
        {canStraighten(material) ? (
          <Straighten material={material} onMade={(sheet) => void takePlace(sheet)} />
        ) : null}
        {state === 'ready' ? <KeepForClass material={material} /> : null}
        {state === 'unusable' && content ? (
          <Button small label="Try again" onPress={() => read.mutate(id)} />
        ) : null}
        <Button
          small
          label="Take out"
          spoken={`Take ${calledName(name)} out`}
          onPress={() => remove.mutate(id, { onSuccess: () => onRemoved(material) })}
        />
      </View>
    </View>
  );
};

/** What was just taken out, and the way back; nothing that was recorded with it has changed. */
export const Removed = ({ material, onDone }: { material: Material; onDone: () => void }) => {
  const restore = useMaterialWork('restoreMaterial');
  return (
    <Notice
      title={`${calledName(material.name)} is taken out.`}
      text="What was recorded with it stays as it is."
    >
      <View ref={(view) => void (view && focusOn(view))} tabIndex={-1} />
      <Button
        small
        label="Restore"
        onPress={() => restore.mutate(material.id, { onSuccess: onDone })}
      />
    </Notice>
  );
};

/** What a picture shows is asked for once: it says nothing to those who can't see it. */
const Described = ({ material: { id, name } }: { material: Material }) => {
  const client = useQueryClient();
  const { data } = useMaterialWords(id);
  const [words, setWords] = useState('');
  const describe = useMutation({
    mutationFn: () => call('describeMaterial', { params: { materialId: id }, body: { words } }),
    onSuccess: () => client.invalidateQueries({ queryKey: KEYS.materialWords(id) }),
  });
  if (data?.[0] !== '') return null;
  const keep = () => {
    if (words.trim() !== '') describe.mutate();
  };
  return (
    <View style={styles.described}>
      <View style={styles.words}>
        <Field
          label={`What ${calledName(name)} shows`}
          hint="Read out to those who can’t see it."
          maxLength={2_000}
          value={words}
          onChangeText={setWords}
          onSubmitEditing={keep}
        />
      </View>
      <Button small label="Keep" disabled={words.trim() === ''} onPress={keep} />
      {describe.error ? <ProblemNotice code={codeOf(describe.error)} /> : null}
    </View>
  );
};

const THUMB = {
  width: 72,
  height: 48,
  objectFit: 'contain',
  backgroundColor: '#fff',
  borderWidth: 1,
  borderStyle: 'solid',
  borderRadius: RADIUS.small,
} as const;

const styles = StyleSheet.create({
  row: {
    flexDirection: 'row',
    alignItems: 'center',
    flexWrap: 'wrap',
    gap: SPACE.small,
    borderBottomWidth: 1,
    paddingBottom: SPACE.small,
  },
  noThumb: { width: 72, height: 48, borderRadius: RADIUS.small },
  words: { flexGrow: 1, flexShrink: 1, flexBasis: 160, minWidth: 0 },
  described: { flexDirection: 'row', alignItems: 'center', gap: SPACE.small, width: '100%' },
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
