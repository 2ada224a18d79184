import { useMutation, useQueryClient } from '@tanstack/react-query';
import { format } from 'date-fns/format';
import { useRouter, type Href } from 'expo-router';
import Plus from 'lucide-react-native/icons/plus';
import { useState } from 'react';
import { Image, Pressable, StyleSheet, useWindowDimensions, View } from 'react-native';
import { pathTo } from '@under-chalk/core/contract/api';
import type { LessonRow } from '@under-chalk/core/contract/lessons';
import { tell } from '@under-chalk/core/errors/errors';
import { megabytes } from '@under-chalk/core/destination/destination';
import { newId } from '../../capture/new-id';
import { call, codeOf } from '../../data/client';
import { KEYS, useLessons, useSession } from '../../data/queries';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { Notice, ProblemNotice } from '../../ui/notice';
import { Failed, Loading, Screen } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme, WIDE } from '../../ui/theme';
import { LessonGauge } from '../destinations/lesson-gauge';
import { Unfinished } from '../record/unfinished';

/** All lessons, and the way to begin one. */
export const LessonsPage = () => {
  const lessons = useLessons();
  const session = useSession();
  const { width } = useWindowDimensions();
  return (
    <Screen name="Lessons" wide>
      <View style={styles.head}>
        <Heading level={1}>Lessons</Heading>
        <Words tone="soft">
          {session.data?.demo
            ? `${session.data.teacherName} · demo`
            : (session.data?.teacherName ?? '')}
        </Words>
      </View>
      <Unfinished />
      <NewLesson />
      {lessons.data ? (
        lessons.data.length === 0 ? (
          <Notice
            title="No lesson yet."
            text="Name the goal of the first one above: “Tide heights by the rule of twelfths” says more than a date."
          />
        ) : (
          <View style={[styles.list, width >= WIDE ? styles.beside : null]} role="list">
            {lessons.data.map((lesson) =>
              lesson.problem ? (
                <UnreadableCard key={lesson.id} lesson={lesson} wide={width >= WIDE} />
              ) : (
                <LessonCard key={lesson.id} lesson={lesson} wide={width >= WIDE} />
              ),
            )}
          </View>
        )
      ) : lessons.error ? (
        <Failed code={codeOf(lessons.error)} onRetry={() => void lessons.refetch()} />
      ) : (
        <Loading what="your lessons" />
      )}
    </Screen>
  );
};

/** The step a lesson is likely to be opened for. */
const nextStep = (lesson: LessonRow): Href => {
  const step = lesson.handedOut ? 'hand-out' : lesson.takeCount === 0 ? 'plan' : 'tidy';
  return `/lessons/${lesson.id}/${step}` as Href;
};

/** A lesson that can't be read: said so, and it can be put away. */
const UnreadableCard = ({ lesson, wide }: { lesson: LessonRow; wide: boolean }) => {
  const client = useQueryClient();
  const put = useMutation({
    mutationFn: (name: 'removeLesson' | 'bringBackLesson') =>
      call(name, { params: { lessonId: lesson.id } }),
    onSuccess: () => client.invalidateQueries({ queryKey: KEYS.lessons }),
  });
  const changed = format(new Date(lesson.updatedAt), 'd MMM, HH:mm');
  return (
    <View role="listitem" style={wide ? styles.half : null}>
      <ProblemNotice code={lesson.problem ?? 'unexpected'}>
        <Words size="small">{`Last changed ${changed}.`}</Words>
        <Button
          small
          label="Take it out of the list"
          disabled={put.isPending}
          onPress={() => put.mutate('removeLesson')}
        />
        {put.error ? <Words tone="bad">{tell(codeOf(put.error)).sentence}</Words> : null}
      </ProblemNotice>
    </View>
  );
};

const LessonCard = ({ lesson, wide }: { lesson: LessonRow; wide: boolean }) => {
  const theme = useTheme();
  const router = useRouter();
  const title = lesson.title || 'Without a title';
  const state = lesson.handedOut
    ? 'Handed out'
    : lesson.takeCount === 0
      ? 'Planned'
      : 'Recorded, not handed out';
  const facts = [
    state,
    lesson.bytes > 0 ? megabytes(lesson.bytes) : null,
    `changed ${format(new Date(lesson.updatedAt), 'd MMM, HH:mm')}`,
  ].filter(Boolean);
  return (
    <View role="listitem" style={wide ? styles.half : null}>
      <Pressable
        role="link"
        aria-label={`${title}. ${state}.`}
        onPress={() => router.push(nextStep(lesson))}
        style={({ pressed }) => [
          styles.card,
          {
            backgroundColor: theme.card,
            borderColor: theme.line,
            opacity: pressed ? 0.85 : 1,
          },
        ]}
      >
        <View style={[styles.picture, { backgroundColor: theme.line }]}>
          {lesson.pictureTakeId ? (
            <Image
              source={{
                uri: `${pathTo('still', { takeId: lesson.pictureTakeId })}?size=large&atUs=${lesson.pictureUs}`,
              }}
              style={styles.fill}
              resizeMode="cover"
              alt=""
            />
          ) : (
            <View style={styles.empty}>
              <Words size="small">nothing recorded yet</Words>
            </View>
          )}
        </View>
        <View style={styles.facts}>
          <Heading level={2}>{title}</Heading>
          <Words tone="soft" size="small">
            {[lesson.className, lesson.unit].filter(Boolean).join(' · ')}
          </Words>
          <LessonGauge usedUs={lesson.filmUs} destinationId={lesson.destinationId} />
          <Words size="small" tone="soft">
            {facts.join(' · ')}
          </Words>
        </View>
      </Pressable>
    </View>
  );
};

const NewLesson = () => {
  const [title, setTitle] = useState('');
  const { width } = useWindowDimensions();
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
    <View style={styles.begin}>
      <View style={styles.grow}>
        <Field
          label="What shall the next lesson teach?"
          hint="Its goal is its title."
          value={title}
          onChangeText={setTitle}
          onSubmitEditing={begin}
          maxLength={140}
        />
      </View>
      <Button
        kind="main"
        label="Plan this lesson"
        icon={Plus}
        onPress={begin}
        disabled={title.trim() === '' || make.isPending}
        style={width >= WIDE ? styles.beginBeside : styles.beginBelow}
      />
      {make.error ? <ProblemNotice code={codeOf(make.error)} /> : null}
    </View>
  );
};

const styles = StyleSheet.create({
  head: {
    flexDirection: 'row',
    justifyContent: 'space-between',
    alignItems: 'baseline',
    flexWrap: 'wrap',
  },
  begin: {
    flexDirection: 'row',
    flexWrap: 'wrap',
    columnGap: SPACE.medium,
    alignItems: 'flex-start',
  },
  grow: { flexGrow: 1, flexBasis: 300 },
  beginBeside: { marginTop: 26 },
  beginBelow: { flexGrow: 1 },
  list: { gap: SPACE.large },
  beside: { flexDirection: 'row', flexWrap: 'wrap' },
  half: { width: '48.8%' },
  card: { borderWidth: 1, borderRadius: RADIUS.large, overflow: 'hidden' },
  picture: { width: '100%', aspectRatio: 16 / 9, maxHeight: 240 },
  fill: { width: '100%', height: '100%' },
  empty: { flex: 1, alignItems: 'center', justifyContent: 'center' },
  facts: { padding: SPACE.large, gap: SPACE.small },
});
