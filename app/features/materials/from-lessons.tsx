import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { calledName, type Material } from '@under-chalk/core/material/material';
import { newId } from '../../capture/new-id';
import { call, codeOf } from '../../data/client';
import { pictureAddress } from '../../data/page-pictures';
import { KEYS, useKeptMaterials } from '../../data/queries';
import { Button } from '../../ui/button';
import { ProblemNotice } from '../../ui/notice';
import { Sheet } from '../../ui/sheet';
import { Words } from '../../ui/text';
import { SPACE, useTheme } from '../../ui/theme';
import { useThisLesson } from '../lessons/lesson-layout';
import { pagesInWords } from './pages-in-words';

/** Brings in what another lesson has: of the same class first. Nothing is sent again. */
export const FromLessons = ({ has }: { has: readonly Material[] }) => {
  const { lesson } = useThisLesson();
  const client = useQueryClient();
  const theme = useTheme();
  const [open, setOpen] = useState(false);
  const { data, error } = useKeptMaterials(open);
  const bring = useMutation({
    mutationFn: (of: string) =>
      call('bringMaterialAgain', { params: { lessonId: lesson.id }, body: { id: newId(), of } }),
    onSuccess: () => {
      setOpen(false);
      return client.invalidateQueries({ queryKey: KEYS.materials(lesson.id) });
    },
  });
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
            {others.map(({ id, name, content, pages, lesson: title }) => (
              <View key={id} role="listitem" style={[styles.row, { borderColor: theme.line }]}>
                <img
                  src={pictureAddress({ content, page: 0 }, 480)}
                  alt=""
                  loading="lazy"
                  style={THUMB}
                />
                <View style={styles.words}>
                  <Words strong>{calledName(name)}</Words>
                  <Words size="small" tone="soft">
                    {`${pagesInWords(pages)} · ${title}`}
                  </Words>
                </View>
                <Button
                  small
                  label="Bring in"
                  spoken={`Bring ${calledName(name)} in`}
                  onPress={() => bring.mutate(id)}
                />
              </View>
            ))}
          </View>
        ) : null}
      </Sheet>
    </>
  );
};

const THUMB = { width: 72, height: 48, objectFit: 'contain' } as const;

const styles = StyleSheet.create({
  list: { gap: SPACE.small },
  row: {
    flexDirection: 'row',
    alignItems: 'center',
    gap: SPACE.small,
    borderBottomWidth: 1,
    paddingBottom: SPACE.small,
  },
  words: { flexGrow: 1, flexShrink: 1, minWidth: 0 },
});
