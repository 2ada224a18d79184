import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useRouter, type Href } from 'expo-router';
import Plus from 'lucide-react-native/icons/plus';
import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { newId } from '../../capture/new-id';
import { call, codeOf } from '../../data/client';
import { KEYS } from '../../data/queries';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { ProblemNotice } from '../../ui/notice';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';

/** Begins a lesson, by its goal. */
export const NewLesson = () => {
  const [title, setTitle] = useState('');
  const client = useQueryClient();
  const router = useRouter();
  const make = useMutation({
    mutationFn: (id: string) => call('newLesson', { body: { id, title: title.trim() } }),
    onSuccess: (view) => {
      client.setQueryData(KEYS.lesson(view.lesson.id), view);
      void client.invalidateQueries({ queryKey: KEYS.lessons });
      router.push(`/lessons/${view.lesson.id}/plan` as Href);
    },
  });
  const begin = () => {
    if (title.trim() !== '' && !make.isPending) make.mutate(newId());
  };
  return (
    <View>
      <Words strong aria-hidden>
        What shall the next lesson teach?
      </Words>
      <View style={styles.line}>
        <View style={styles.grow}>
          <Field
            label="What shall the next lesson teach?"
            hideLabel
            placeholder="Its goal is its title"
            value={title}
            onChangeText={setTitle}
            onSubmitEditing={begin}
            maxLength={140}
          />
        </View>
        <Button
          kind="main"
          label="Plan"
          spoken="Plan this lesson"
          icon={Plus}
          onPress={begin}
          disabled={title.trim() === '' || make.isPending}
        />
      </View>
      {make.error ? <ProblemNotice code={codeOf(make.error)} /> : null}
    </View>
  );
};

const styles = StyleSheet.create({
  line: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small, alignItems: 'flex-end' },
  grow: { flexGrow: 1, flexShrink: 1, flexBasis: 160 },
});
