import { useRef, useState } from 'react';
import { StyleSheet, View } from 'react-native';
import type { Material } from '@under-chalk/core/material/material';
import { codeOf } from '../../data/client';
import { useMaterials } from '../../data/queries';
import { Button } from '../../ui/button';
import { FileInput } from '../../ui/file-input';
import { ProblemNotice } from '../../ui/notice';
import { Heading, Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';
import { useThisLesson } from '../lessons/lesson-layout';
import { useDroppedFiles } from './dropped-files';
import { FromLessons } from './from-lessons';
import { MaterialRow, Removed } from './material-row';
import { OfClass } from './of-class';
import { ComingRows } from './coming-rows';
import { useBringMaterials } from './use-bring-materials';

/** What the browser's own window offers; what it is in truth is found out by its bytes. */
const ACCEPTED =
  '.pdf,.pptx,.ppt,.odp,.docx,.doc,.odt,.png,.jpg,.jpeg,.webp,.avif,.gif,.svg,.html,.htm,.mhtml,.mht,.md,.markdown,.txt,application/pdf,image/*,text/plain,text/html,text/markdown';

/** Slides, pages and pictures of a lesson, and the way to bring more in. */
export const Materials = () => {
  const { lesson } = useThisLesson();
  const { data: materials = [], error } = useMaterials(lesson.id);
  const bringing = useBringMaterials(lesson.id);
  const { coming, bring } = bringing;
  const over = useDroppedFiles((files) => void bring(files));
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
          : 'Slides, pages and pictures to show, turn and write on: PDF, files of office programs, pictures, drawings (SVG), saved pages of the web, text and Markdown. They can also be dropped here, or pasted.'}
      </Words>
      {error ? <ProblemNotice code={codeOf(error)} /> : null}
      {materials.length > 0 ? (
        <View role="list" aria-label="Materials" style={styles.list}>
          {materials
            .filter(({ id, state }) => state !== 'coming' || !coming.some((one) => one.id === id))
            .map((material) => (
              <MaterialRow
                key={material.id}
                material={material}
                onRemoved={setRemoved}
                onBring={bring}
              />
            ))}
        </View>
      ) : null}
      {removed && !here.has(removed.id) ? (
        <Removed material={removed} onDone={() => setRemoved(null)} />
      ) : null}
      <ComingRows {...bringing} />
      <FileInput
        ref={input}
        label="Materials to bring in"
        accept={ACCEPTED}
        multiple
        onFiles={(files) => void bring(files)}
      />
      <Button label="Bring materials in" onPress={() => input.current?.click()} />
      <OfClass has={materials} />
      <FromLessons has={materials} />
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small, alignItems: 'stretch' },
  over: { borderWidth: 3, borderStyle: 'dashed', borderRadius: RADIUS.small, padding: SPACE.small },
  list: { gap: SPACE.small },
});
