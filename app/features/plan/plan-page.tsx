import { useEffect, useRef } from 'react';
import { Controller, useForm } from 'react-hook-form';
import { View } from 'react-native';
import { filmOf } from '@under-chalk/core/film/film';
import type { Plan } from '@under-chalk/core/lesson/lesson';
import { DESTINATIONS, destinationOf, limitsInWords } from '@under-chalk/core/place/destination';
import { useEdits } from '../../data/edits';
import { Button } from '../../ui/button';
import { Choices } from '../../ui/choices';
import { Field } from '../../ui/field';
import { LengthGauge } from '../../ui/length-gauge';
import { Screen } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { LessonHead, useGoTo, useThisLesson } from '../lessons/lesson-layout';

const SAVE_AFTER_MS = 600;

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
  const form = useForm<Plan>({ defaultValues: plan });
  const saved = useRef<Plan>(plan);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);

  const save = () => {
    if (timer.current) clearTimeout(timer.current);
    timer.current = null;
    const typed = form.getValues();
    const changed = Object.fromEntries(
      Object.entries(typed).filter(([name, value]) => saved.current[name as keyof Plan] !== value),
    );
    if (Object.keys(changed).length === 0) return;
    saved.current = { ...typed };
    put({ do: 'plan', set: changed });
  };
  const latest = useRef(save);
  useEffect(() => {
    latest.current = save;
  });
  const saveSoon = () => {
    if (timer.current) clearTimeout(timer.current);
    timer.current = setTimeout(() => latest.current(), SAVE_AFTER_MS);
  };
  // What was typed in the last half second is not lost with the page.
  useEffect(() => {
    const flush = () => latest.current();
    addEventListener('pagehide', flush);
    return () => {
      removeEventListener('pagehide', flush);
      flush();
    };
  }, []);
  // A change made in another tab comes in where nothing is being typed.
  useEffect(() => {
    if (timer.current) return;
    saved.current = plan;
    form.reset(plan);
  }, [plan, form]);

  return (
    <Screen
      name={`Plan · ${plan.title}`}
      head={<LessonHead />}
      foot={
        <Button
          kind="main"
          grow
          label="Go on to Record"
          onPress={() => {
            save();
            goTo('record');
          }}
        />
      }
    >
      <Heading level={1}>Plan</Heading>
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
              onChangeText={(text) => {
                field.onChange(text);
                saveSoon();
              }}
              onBlur={save}
            />
          )}
        />
      ))}
      <Controller
        control={form.control}
        name="destinationId"
        render={({ field }) => (
          <Choices
            label="Where does it go?"
            stacked
            choices={DESTINATIONS.map((place) => ({
              value: place.id,
              label: place.name,
              hint: limitsInWords(place),
            }))}
            value={field.value}
            onChoose={(id) => {
              field.onChange(id);
              save();
            }}
          />
        )}
      />
      <View style={{ gap: SPACE.hair }}>
        <Words strong>Length so far</Words>
        <LengthGauge
          usedUs={filmOf(lesson).durationUs}
          destination={destinationOf(plan.destinationId)}
        />
      </View>
    </Screen>
  );
};
