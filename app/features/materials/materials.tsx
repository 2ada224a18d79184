import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { tell } from '@under-chalk/core/errors/errors';
import { pathTo } from '@under-chalk/core/contract/api';
import { calledName, type Material } from '@under-chalk/core/material/material';
import { HALTED } from '../../capture/sending/send-file';
import { call, codeOf } from '../../data/client';
import { KEYS, useMaterials } from '../../data/queries';
import { Button } from '../../ui/button';
import { focusOn } from '../../ui/focus';
import { Notice, ProblemNotice } from '../../ui/notice';
import { ProgressLine } from '../../ui/progress-line';
import { Heading, Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';
import { useThisLesson } from '../lessons/lesson-layout';
import { useDroppedFiles } from './dropped-files';
import { useBringMaterials, type Coming } from './use-bring-materials';

/** What the browser's own window offers; what it is in truth is found out by its bytes. */
const ACCEPTED =
  '.pdf,.pptx,.ppt,.odp,.docx,.doc,.odt,.png,.jpg,.jpeg,.webp,.avif,.gif,.svg,.md,.markdown,.txt,application/pdf,image/*,text/plain,text/markdown';

const pagesInWords = ({ aspects }: Material) =>
  aspects.length === 1 ? 'one page' : `${aspects.length} pages`;

/** Slides, pages and pictures of a lesson, and the way to bring more in. */
export const Materials = () => {
  const { lesson } = useThisLesson();
  const { data: materials = [], error } = useMaterials(lesson.id);
  const { coming, bring, again, forget } = useBringMaterials(lesson.id);
  const over = useDroppedFiles(bring);
  const input = useRef<HTMLInputElement>(null);
  const theme = useTheme();
  const here = new Set(materials.map(({ id }) => id));
  const [removed, setRemoved] = useState<Material | null>(null);
  return (
    <View
      style={[
        styles.group,
        over
          ? [styles.over, { borderColor: theme.action, backgroundColor: theme.actionSoft }]
          : null,
      ]}
    >
      <Heading level={2}>Materials</Heading>
      <Words>
        {over
          ? 'Let go, and they are brought in.'
          : 'Slides, pages and pictures to show, turn and write on: PDF, files of office programs, pictures, drawings (SVG), text and Markdown. They can also be dropped here, or pasted.'}
      </Words>
      {error ? <ProblemNotice code={codeOf(error)} /> : null}
      {materials.length > 0 ? (
        <View role="list" aria-label="Materials" style={styles.list}>
          {materials
            .filter(({ id, state }) => state !== 'coming' || !coming.some((one) => one.id === id))
            .map((material) => (
              <MaterialRow key={material.id} material={material} onRemoved={setRemoved} />
            ))}
        </View>
      ) : null}
      {removed && !here.has(removed.id) ? (
        <Removed material={removed} onDone={() => setRemoved(null)} />
      ) : null}
      {coming.map((one) => (
        <ComingRow
          key={one.id}
          coming={one}
          onAgain={() => again(one)}
          onForget={() => forget(one.id)}
        />
      ))}
      <input
        ref={input}
        type="file"
        multiple
        accept={ACCEPTED}
        aria-label="Materials to bring in"
        style={{ display: 'none' }}
        onChange={(event) => {
          const files = [...(event.currentTarget.files ?? [])];
          event.currentTarget.value = '';
          bring(files);
        }}
      />
      <Button label="Bring materials in" onPress={() => input.current?.click()} />
    </View>
  );
};

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
}

const MaterialRow = ({ material, onRemoved }: RowProps) => {
  const theme = useTheme();
  const remove = useMaterialWork('removeMaterial');
  const read = useMaterialWork('readMaterial');
  const { id, name, state, problem, content } = material;
  const told = problem ? tell(problem) : null;
  return (
    <View role="listitem" style={[styles.row, { borderColor: theme.line }]}>
      {state === 'ready' && content ? (
        <img
          src={`${pathTo('pagePicture', { content, page: 0 })}?width=480`}
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
            ? `${told.sentence} ${told.next}`
            : state === 'ready'
              ? pagesInWords(material)
              : state === 'reading'
                ? 'Being opened…'
                : 'It hasn’t come whole. Take it out, and bring it in again.'}
        </Words>
        {read.error || remove.error ? (
          <ProblemNotice code={codeOf(read.error ?? remove.error)} />
        ) : null}
      </View>
      <View style={styles.buttons}>
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
const Removed = ({ material, onDone }: { material: Material; onDone: () => void }) => {
  const restore = useMaterialWork('restoreMaterial');
  return (
    <Notice
      title={`${calledName(material.name)} is taken out.`}
      text="What was recorded with it stays as it is."
    >
      <View ref={(view) => void (view && focusOn(view))} tabIndex={-1} />
      <Button
        small
        label="Bring it back"
        onPress={() => restore.mutate(material.id, { onSuccess: onDone })}
      />
    </Notice>
  );
};

interface ComingProps {
  readonly coming: Coming;
  readonly onAgain: () => void;
  readonly onForget: () => void;
}

const ComingRow = ({ coming, onAgain, onForget }: ComingProps) => {
  const { name, sending, problem } = coming;
  if (problem) {
    return (
      <View style={styles.group}>
        <Words strong>{calledName(name)}</Words>
        <ProblemNotice code={problem} />
        <View style={styles.buttons}>
          <Button small label="Try again" onPress={onAgain} />
          <Button small label="Leave it" spoken={`Leave ${calledName(name)}`} onPress={onForget} />
        </View>
      </View>
    );
  }
  return (
    <View style={styles.group}>
      <ProgressLine
        done={sending.done}
        doing={`Bringing in ${calledName(name)}`}
        leftUs={sending.halted ? null : sending.leftUs}
      />
      {sending.halted ? <Words role="status">{HALTED[sending.halted]}</Words> : null}
    </View>
  );
};

const THUMB = {
  width: 72,
  height: 48,
  objectFit: 'contain',
  borderWidth: 1,
  borderStyle: 'solid',
  borderRadius: RADIUS.small,
} as const;

const styles = StyleSheet.create({
  group: { gap: SPACE.small, alignItems: 'stretch' },
  over: { borderWidth: 3, borderStyle: 'dashed', borderRadius: RADIUS.small, padding: SPACE.small },
  list: { gap: SPACE.small },
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
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
