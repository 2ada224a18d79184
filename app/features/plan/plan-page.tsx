import { useCallback, useEffect, useRef } from 'react';
import { Controller, useForm } from 'react-hook-form';
import { StyleSheet, useWindowDimensions, View } from 'react-native';
import { filmOf } from '@under-chalk/core/film/film';
import type { Plan } from '@under-chalk/core/lesson/plan';
import { useEdits } from '../../data/edits';
import { useClasses } from '../../data/queries';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { Screen } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { SPACE, WIDE } from '../../ui/theme';
import { LessonHead, useGoTo, useThisLesson } from '../lessons/lesson-layout';
import { DestinationChoice } from '../destinations/destination-choice';
import { Materials } from '../materials/materials';
import { LessonGauge } from '../destinations/lesson-gauge';
import { SavedStyleChoice } from '../styles/style-choice';
import { isFresh, savedStyleFor, useSavedStyles, useTakeSavedStyle } from '../styles/use-styles';
import { Outline } from './outline';
import { useSaveSoon } from './use-save-soon';

const FIELDS = [
  {
    name: 'title',
    label: 'What shall it teach?',
    hint: 'The goal is the title. Films and files are named by it.',
    most: 140,
  },
  { name: 'className', label: 'Class', hint: '', most: 140 },
  { name: 'unit', label: 'Unit or week', hint: '', most: 140 },
  {
    name: 'description',
    label: 'A line for the students',
    hint: 'Shown under the film.',
    most: 600,
  },
] as const;

/** Plan: what the lesson teaches, for whom, and where it goes. Saved while it is typed. */
export const PlanPage = () => {
  const { lesson } = useThisLesson();
  const { put } = useEdits();
  const goTo = useGoTo();
  const { plan } = lesson.decisions;
  const { savedStyles } = useSavedStyles();
  const savedStyle = useTakeSavedStyle(lesson);
  const form = useForm<Plan>({ defaultValues: plan });
  const saved = useRef<Plan>(plan);
  const saving = useSaveSoon(() => {
    const typed = form.getValues();
    const changed = Object.fromEntries(
      Object.entries(typed).filter(([name, value]) => saved.current[name as keyof Plan] !== value),
    );
    if (Object.keys(changed).length === 0) return;
    saved.current = { ...typed };
    put({ do: 'plan', set: changed });
    // What is decided when the lesson is new: a style that was kept for its class.
    const kept =
      changed['className'] === undefined ? undefined : savedStyleFor(savedStyles, typed.className);
    if (kept && isFresh(lesson)) savedStyle.mutate(kept);
  });
  // What is being typed is never replaced, not even by itself as it comes back (trimmed) from the server.
  const typing = useRef<keyof Plan | null>(null);
  const takeOver = useCallback(() => {
    if (saving.pending()) return;
    for (const name of Object.keys(plan) as (keyof Plan)[]) {
      if (name === typing.current) continue;
      saved.current = { ...saved.current, [name]: plan[name] };
      form.setValue(name, plan[name]);
    }
  }, [plan, form, saving]);
  useEffect(takeOver, [takeOver]);
  const leave = () => {
    saving.now();
    typing.current = null;
  };

  const { width } = useWindowDimensions();
  const wide = width >= WIDE;
  const classes = useClasses().data ?? [];
  const units = classes.find(({ name }) => name === plan.className)?.units ?? [];
  const offered: { readonly [Name in keyof Plan]?: string[] } = {
    className: classes.map(({ name }) => name),
    unit: units.map(({ name }) => name),
  };

  return (
    <Screen
      name={`Plan · ${plan.title}`}
      wide
      head={<LessonHead />}
      foot={
        <Button
          kind="main"
          grow
          label="Go on to Record"
          onPress={() => {
            saving.now();
            goTo('record');
          }}
        />
      }
    >
      <Heading level={1}>Plan</Heading>
      <View style={wide ? styles.columns : styles.stack}>
        <View style={[styles.stack, wide ? styles.column : null]}>
          {FIELDS.map(({ name, label, hint, most }) => (
            <Controller
              key={name}
              control={form.control}
              name={name}
              render={({ field }) => (
                <Field
                  label={label}
                  hint={hint}
                  maxLength={most}
                  multiline={name === 'description'}
                  value={field.value}
                  offered={offered[name]}
                  onChangeText={(text) => {
                    field.onChange(text);
                    saving.soon();
                  }}
                  onFocus={() => {
                    typing.current = name;
                  }}
                  onBlur={leave}
                />
              )}
            />
          ))}
          <Controller
            control={form.control}
            name="destinationId"
            render={({ field }) => (
              <DestinationChoice
                value={field.value}
                onChoose={(id) => {
                  field.onChange(id);
                  saving.now();
                }}
              />
            )}
          />
          <SavedStyleChoice lesson={lesson} />
          <View style={styles.length}>
            <Words strong>Length so far</Words>
            <LessonGauge usedUs={filmOf(lesson).durationUs} destinationId={plan.destinationId} />
          </View>
        </View>
        <View style={[styles.stack, wide ? styles.column : null]}>
          <Outline />
          <Materials />
        </View>
      </View>
    </Screen>
  );
};

const styles = StyleSheet.create({
  stack: { gap: SPACE.large },
  columns: { flexDirection: 'row', gap: SPACE.wide, alignItems: 'flex-start' },
  column: { flex: 1 },
  length: { gap: SPACE.hair },
});
