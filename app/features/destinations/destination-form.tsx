import { zodResolver } from '@hookform/resolvers/zod';
import { useEffect } from 'react';
import { Controller, useForm } from 'react-hook-form';
import { StyleSheet, View } from 'react-native';
import {
  destinationSchema,
  FREE_DESTINATION_ID,
  MEGABYTE,
  type Destination,
} from '@under-chalk/core/destination/destination';
import { pictureSizeSchema } from '@under-chalk/core/destination/size-name';
import { formatClock } from '@under-chalk/core/time/us';
import * as z from 'zod';
import { call, codeOf } from '../../data/client';
import { useSetDestinations } from '../../data/queries';
import { Button } from '../../ui/button';
import { Choices } from '../../ui/choices';
import { Field } from '../../ui/field';
import { ProblemNotice } from '../../ui/notice';
import { Heading } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';
import { UploadLimitsForm } from './upload-limits';
import { CLOCK, typedLength } from './typed-length';

/** What is typed of a destination: empty where there is no limit. */
const typedSchema = z.object({
  name: z.string().trim().min(1, 'It needs a name.'),
  least: typedLength,
  most: typedLength.refine(
    (us) => us !== 0,
    'Longer than nothing; or leave it empty for no limit.',
  ),
  megabytes: z
    .string()
    .trim()
    .regex(/^(?:[1-9]\d{0,5})?$/, 'A whole number of megabytes; or nothing.'),
  size: pictureSizeSchema,
  captions: z.enum(['yes', 'no']),
});
type Typed = z.input<typeof typedSchema>;

const typedOf = (place: Destination): Typed => ({
  name: place.name,
  least: place.leastUs > 0 ? formatClock(place.leastUs) : '',
  most: place.mostUs === null ? '' : formatClock(place.mostUs),
  megabytes: place.mostBytes === null ? '' : String(Math.round(place.mostBytes / MEGABYTE)),
  size: place.size,
  captions: place.captionsRequired ? 'yes' : 'no',
});

/** What is typed → the destination; what is wrong with it as a whole is said of the most. */
const formOf = (id: string) =>
  typedSchema.transform((typed, context): Destination => {
    const place = destinationSchema.safeParse({
      id,
      name: typed.name,
      leastUs: typed.least ?? 0,
      mostUs: typed.most,
      mostBytes: typed.megabytes === '' ? null : Number(typed.megabytes) * MEGABYTE,
      size: typed.size,
      captionsRequired: typed.captions === 'yes',
    });
    if (place.success) return place.data;
    context.addIssue({ code: 'custom', path: ['most'], message: place.error.issues[0]!.message });
    return z.NEVER;
  });

const FIELDS = [
  { name: 'name', label: 'Name of the place', hint: '', most: 80 },
  {
    name: 'least',
    label: 'At least as long as',
    hint: 'As 0:15. Empty: no least.',
    unit: CLOCK,
    most: 9,
  },
  {
    name: 'most',
    label: 'At most as long as',
    hint: 'As 10:00. Empty: no limit.',
    unit: CLOCK,
    most: 9,
  },
  {
    name: 'megabytes',
    label: 'At most as large as',
    hint: 'Empty: no limit.',
    unit: 'megabytes',
    most: 9,
  },
] as const;

const CHOICES = [
  {
    name: 'size',
    label: 'Size of the picture',
    choices: [
      { value: '720p', label: '720p' },
      { value: '1080p', label: '1080p' },
      { value: 'as-recorded', label: 'as recorded' },
      { value: 'finest', label: 'finest' },
    ],
  },
  {
    name: 'captions',
    label: 'Captions',
    choices: [
      { value: 'no', label: 'not required' },
      { value: 'yes', label: 'required' },
    ],
  },
] as const;

interface Props {
  readonly place: Destination;
  readonly isNew: boolean;
  readonly onDone: (id: string | null) => void;
}

/** One destination's limits, to be changed. */
export const DestinationForm = ({ place, isNew, onDone }: Props) => {
  const theme = useTheme();
  const form = useForm({ resolver: zodResolver(formOf(place.id)), defaultValues: typedOf(place) });
  const { setFocus } = form;
  useEffect(() => setFocus('name'), [setFocus]);
  const set = useSetDestinations((changed: Destination) =>
    call('setDestination', { body: changed }),
  );
  const remove = useSetDestinations((destinationId: string) =>
    call('removeDestination', { params: { destinationId } }),
  );
  const failed = set.error ?? remove.error;
  const save = form.handleSubmit((changed) =>
    set.mutate(changed, { onSuccess: () => onDone(place.id) }),
  );
  return (
    <View
      role="form"
      aria-label={isNew ? 'A new destination' : `Limits of ${place.name}`}
      style={[styles.form, { borderColor: theme.line, backgroundColor: theme.card }]}
    >
      <Heading level={2}>{isNew ? 'A new destination' : `Limits of “${place.name}”`}</Heading>
      <UploadLimitsForm
        onFound={(typed) => {
          for (const [name, value] of Object.entries(typed)) form.setValue(name as 'most', value);
        }}
      />
      {FIELDS.map(({ name, most, ...words }) => (
        <Controller
          key={name}
          control={form.control}
          name={name}
          render={({ field, fieldState }) => (
            <Field
              ref={field.ref}
              {...words}
              value={field.value}
              maxLength={most}
              problem={fieldState.error?.message}
              onChangeText={field.onChange}
              onSubmitEditing={() => void save()}
            />
          )}
        />
      ))}
      {CHOICES.map(({ name, label, choices }) => (
        <Controller
          key={name}
          control={form.control}
          name={name}
          render={({ field }) => (
            <Choices
              label={label}
              choices={choices}
              value={field.value}
              onChoose={field.onChange}
            />
          )}
        />
      ))}
      {failed ? <ProblemNotice code={codeOf(failed)} /> : null}
      <View style={styles.actions}>
        <Button
          kind="main"
          label="Keep these limits"
          onPress={() => void save()}
          disabled={set.isPending}
        />
        <Button label="Cancel" onPress={() => onDone(null)} />
        {isNew || place.id === FREE_DESTINATION_ID ? null : (
          <Button
            kind="grave"
            label="Remove this destination"
            disabled={remove.isPending}
            onPress={() => remove.mutate(place.id, { onSuccess: () => onDone(null) })}
          />
        )}
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  form: { borderWidth: 1.5, borderRadius: RADIUS.medium, padding: SPACE.large, gap: SPACE.medium },
  actions: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
