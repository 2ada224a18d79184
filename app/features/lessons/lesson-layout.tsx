import { Slot, useGlobalSearchParams, usePathname, useRouter, type Href } from 'expo-router';
import ArrowLeft from 'lucide-react-native/icons/arrow-left';
import { createContext, useContext, useMemo } from 'react';
import { Pressable, StyleSheet, View } from 'react-native';
import { filmOf } from '@under-chalk/core/film/film';
import { allInWords } from '@under-chalk/core/film/step-in-words';
import type { LessonView } from '@under-chalk/core/contract/lessons';
import { codeOf } from '../../data/client';
import type { HeldPress } from '../../data/edit-line';
import { EditLineContext, useEdits, useEditState, useNewEditLine } from '../../data/edits';
import { withWaiting } from '../../data/lesson-ahead';
import { useLesson } from '../../data/queries';
import { Button } from '../../ui/button';
import { Notice, ProblemNotice } from '../../ui/notice';
import { Failed, Loading, Screen } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { useLayout } from '../../ui/layout';
import { SPACE, useTheme } from '../../ui/theme';

const LessonContext = createContext<LessonView | null>(null);

/** The lesson whose page this is. */
export const useThisLesson = (): LessonView => {
  const view = useContext(LessonContext);
  if (!view) throw new Error('useThisLesson stands inside a lesson’s page');
  return view;
};

const STEPS = [
  { path: 'plan', label: 'Plan' },
  { path: 'record', label: 'Record' },
  { path: 'tidy', label: 'Tidy' },
  { path: 'words', label: 'Words' },
  { path: 'last-look', label: 'Last look' },
  { path: 'hand-out', label: 'Hand out' },
] as const;
export type StepPath = (typeof STEPS)[number]['path'];

/** Goes to a step of this lesson. */
export const useGoTo = (): ((step: StepPath) => void) => {
  const router = useRouter();
  const { lesson } = useThisLesson();
  return (step) => router.push(`/lessons/${lesson.id}/${step}` as Href);
};

/** What stands around every step of a lesson: its data, its edits and the way between the steps. */
export const LessonLayout = () => {
  const { lessonId } = useGlobalSearchParams<{ lessonId: string }>();
  const router = useRouter();
  const query = useLesson(lessonId);
  const line = useNewEditLine(lessonId);
  const { waiting } = useEditState(line);
  const view = useMemo(
    () => (query.data ? withWaiting(query.data, waiting) : null),
    [query.data, waiting],
  );
  if (!view) {
    return (
      <Screen name="Lesson" fleeting={!query.error}>
        {query.error ? (
          <>
            <Heading level={1}>Lesson</Heading>
            <Failed code={codeOf(query.error)} onRetry={() => void query.refetch()} />
            <Button label="Go to the lessons" onPress={() => router.replace('/')} />
          </>
        ) : (
          <Loading what="the lesson" />
        )}
      </Screen>
    );
  }
  return (
    <EditLineContext.Provider value={line}>
      <LessonContext.Provider value={view}>
        <Slot />
      </LessonContext.Provider>
    </EditLineContext.Provider>
  );
};

/** The head of every step: the way back, the six steps in their order, and what is not saved yet. */
export const LessonHead = () => {
  const theme = useTheme();
  const router = useRouter();
  const path = usePathname();
  const { lesson } = useThisLesson();
  const { beside } = useLayout();
  return (
    <View style={[styles.head, { borderColor: theme.line, backgroundColor: theme.paper }]}>
      <View style={styles.inner}>
        <View style={beside ? styles.oneLine : null}>
          <View style={styles.titleLine}>
            <Button
              kind="bare"
              small
              icon={ArrowLeft}
              label="Lessons"
              onPress={() => router.push('/')}
            />
            <Words strong numberOfLines={1} style={styles.title}>
              {lesson.decisions.plan.title || 'Without a title'}
            </Words>
          </View>
          <View style={styles.steps} role="navigation" aria-label="Steps of the lesson">
            {STEPS.map((step) => {
              const here = path.endsWith(`/${step.path}`);
              return (
                <Pressable
                  key={step.path}
                  role="link"
                  {...({ 'aria-current': here ? 'step' : undefined } as object)}
                  onPress={() => router.push(`/lessons/${lesson.id}/${step.path}` as Href)}
                  style={[styles.step, { borderColor: here ? theme.action : 'transparent' }]}
                >
                  <Words size="small" strong={here} tone={here ? 'action' : 'soft'}>
                    {step.label}
                  </Words>
                </Pressable>
              );
            })}
          </View>
        </View>
        <EditNotice />
      </View>
    </View>
  );
};

/** Lets the teacher choose between their own change and another tab's. */
const HeldNotice = ({ press }: { press: HeldPress }) => {
  const { line } = useEdits();
  const { lesson } = useThisLesson();
  const film = useMemo(() => filmOf(lesson), [lesson]);
  return (
    <Notice
      tone="warn"
      urgent
      title="The same thing was changed in another tab."
      text={`Here you ${allInWords(film, press.said)}. It is kept until you choose; the other stands meanwhile.`}
    >
      <Button label="Use mine" onPress={() => line.resolve(press, 'mine')} />
      <Button label="Keep the other" onPress={() => line.resolve(press, 'theirs')} />
    </Notice>
  );
};

/** Says so when edits are not getting through, or of another version, and lets the teacher choose when two meet. */
const EditNotice = () => {
  const { line, state } = useEdits();
  const { unknown } = useThisLesson();
  return (
    <>
      {state.held.map((press) => (
        <HeldNotice key={press.ids[0]!} press={press} />
      ))}
      {state.problem === 'server-unreachable' ? (
        <Notice
          tone="warn"
          title="Under Chalk can’t be reached."
          text={`${state.waiting.length} ${state.waiting.length === 1 ? 'change waits' : 'changes wait'} in this browser and will be saved as soon as it is back.`}
        />
      ) : state.problem !== null ? (
        <ProblemNotice code={state.problem}>
          <Button label="Try again" onPress={() => line.retry()} />
          <Button label="Leave my change" onPress={() => line.leave()} />
        </ProblemNotice>
      ) : null}
      {unknown > 0 ? (
        <Notice
          tone="warn"
          title={`${unknown} ${unknown === 1 ? 'change was' : 'changes were'} made by a later version of Under Chalk.`}
          text="They are kept, and not seen here. Bring the server up to date to see the lesson as it was left."
        />
      ) : null}
    </>
  );
};

const styles = StyleSheet.create({
  head: { borderBottomWidth: 1, paddingHorizontal: SPACE.small },
  inner: { width: '100%', maxWidth: 1240, alignSelf: 'center', gap: SPACE.hair },
  titleLine: { flexDirection: 'row', alignItems: 'center', gap: SPACE.hair, flexShrink: 1 },
  title: { flexShrink: 1 },
  // The title and the steps side by side, where there is room.
  oneLine: { flexDirection: 'row', justifyContent: 'space-between', gap: SPACE.medium },
  steps: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.hair },
  step: {
    minHeight: 44,
    paddingHorizontal: SPACE.small,
    justifyContent: 'center',
    borderBottomWidth: 3,
  },
});
