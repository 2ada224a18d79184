import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import {
  destinationSchema,
  FREE_DESTINATION_ID,
  MEGABYTE,
  type Destination,
} from '@under-chalk/core/destination/destination';
import type { PictureSize } from '@under-chalk/core/destination/size-name';
import { call, codeOf } from '../../data/client';
import { useSetDestinations } from '../../data/queries';
import { Button } from '../../ui/button';
import { Choices } from '../../ui/choices';
import { Field } from '../../ui/field';
import { ProblemNotice } from '../../ui/notice';
import { Heading } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';

/** What is typed: lengths as `3:00` or seconds, empty for no limit. */
interface Typed {
  readonly name: string;
  readonly least: string;
  readonly most: string;
  readonly megabytes: string;
  readonly size: PictureSize;
  readonly captions: 'yes' | 'no';
}

const clock = (us: number) => {
  const seconds = Math.round(us / 1e6);
  return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`;
};

/** `3:00`, `180` or empty → µs; undefined when it is none of these. */
export const lengthIn = (text: string): number | null | undefined => {
  const trimmed = text.trim();
  if (trimmed === '') return null;
  const parts = /^(?:(\d{1,4}):)?(\d{1,5})$/.exec(trimmed);
  if (!parts) return undefined;
  return (Number(parts[1] ?? 0) * 60 + Number(parts[2])) * 1_000_000;
};

const typedOf = (place: Destination): Typed => ({
  name: place.name,
  least: place.leastUs > 0 ? clock(place.leastUs) : '',
  most: place.mostUs === null ? '' : clock(place.mostUs),
  megabytes: place.mostBytes === null ? '' : String(Math.round(place.mostBytes / MEGABYTE)),
  size: place.size,
  captions: place.captionsRequired ? 'yes' : 'no',
});

type Problems = Partial<Record<keyof Typed, string>>;

/** The destination that was typed, or what is wrong with it, by field. */
const read = (id: string, typed: Typed): { place: Destination } | { problems: Problems } => {
  const problems: Problems = {};
  const least = lengthIn(typed.least);
  const most = lengthIn(typed.most);
  const SHAPE = 'Minutes and seconds, as 3:00; or nothing.';
  if (typed.name.trim() === '') problems.name = 'It needs a name.';
  if (least === undefined) problems.least = SHAPE;
  if (most === undefined) problems.most = SHAPE;
  const megabytes = typed.megabytes.trim();
  if (megabytes !== '' && !/^[1-9]\d{0,5}$/.test(megabytes)) {
    problems.megabytes = 'A whole number of megabytes; or nothing.';
  }
  if (most === 0) problems.most = 'Longer than nothing; or leave it empty for no limit.';
  if (Object.keys(problems).length > 0) return { problems };
  const place = destinationSchema.safeParse({
    id,
    name: typed.name,
    leastUs: least ?? 0,
    mostUs: most ?? null,
    mostBytes: megabytes === '' ? null : Number(megabytes) * MEGABYTE,
    size: typed.size,
    captionsRequired: typed.captions === 'yes',
  });
  if (place.success) return { place: place.data };
  return { problems: { most: place.error.issues[0]?.message ?? SHAPE } };
};

const FIELDS = [
  { name: 'name', label: 'Name of the place', hint: '' },
  { name: 'least', label: 'At least as long as', hint: 'As 0:15. Empty: no least.' },
  { name: 'most', label: 'At most as long as', hint: 'As 10:00. Empty: no limit.' },
  { name: 'megabytes', label: 'At most this many megabytes', hint: 'Empty: no limit.' },
] as const;

interface Props {
  readonly place: Destination;
  readonly isNew: boolean;
  readonly onDone: (id: string | null) => void;
}

/** One destination's limits, to be changed. */
export const DestinationForm = ({ place, isNew, onDone }: Props) => {
  const theme = useTheme();
  const [typed, setTyped] = useState(() => typedOf(place));
  const [problems, setProblems] = useState<Problems>({});
  const set = useSetDestinations((changed: Destination) =>
    call('setDestination', { body: changed }),
  );
  const remove = useSetDestinations((destinationId: string) =>
    call('removeDestination', { params: { destinationId } }),
  );
  const failed = set.error ?? remove.error;
  const change = (part: Partial<Typed>) => {
    setTyped({ ...typed, ...part });
    setProblems({});
  };
  const save = () => {
    const result = read(place.id, typed);
    if ('problems' in result) return setProblems(result.problems);
    set.mutate(result.place, { onSuccess: () => onDone(place.id) });
  };
  return (
    <View
      role="form"
      aria-label={isNew ? 'A new destination' : `Limits of ${place.name}`}
      style={[styles.form, { borderColor: theme.line, backgroundColor: theme.card }]}
    >
      <Heading level={3}>{isNew ? 'A new destination' : `Limits of “${place.name}”`}</Heading>
      {FIELDS.map(({ name, label, hint }) => (
        <Field
          key={name}
          label={label}
          hint={hint}
          value={typed[name]}
          maxLength={name === 'name' ? 80 : 9}
          problem={problems[name]}
          onChangeText={(text) => change({ [name]: text })}
          onSubmitEditing={save}
        />
      ))}
      <Choices
        label="Size of the picture"
        choices={[
          { value: '720p', label: '720p' },
          { value: '1080p', label: '1080p' },
          { value: 'as-recorded', label: 'as recorded' },
        ]}
        value={typed.size}
        onChoose={(size) => change({ size })}
      />
      <Choices
        label="Captions"
        choices={[
          { value: 'no', label: 'not required' },
          { value: 'yes', label: 'required' },
        ]}
        value={typed.captions}
        onChoose={(captions) => change({ captions })}
      />
      {failed ? <ProblemNotice code={codeOf(failed)} /> : null}
      <View style={styles.actions}>
        <Button kind="main" label="Keep these limits" onPress={save} disabled={set.isPending} />
        <Button label="Leave it" onPress={() => onDone(null)} />
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
