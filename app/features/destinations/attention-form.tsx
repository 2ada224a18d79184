import { zodResolver } from '@hookform/resolvers/zod';
import { useEffect } from 'react';
import { Controller, useForm } from 'react-hook-form';
import { StyleSheet, View } from 'react-native';
import { formatClock, type Us } from '@under-chalk/core/time/us';
import * as z from 'zod';
import { call, codeOf } from '../../data/client';
import { useSetDestinations } from '../../data/queries';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { ProblemNotice } from '../../ui/notice';
import { SPACE } from '../../ui/theme';
import { CLOCK, typedLength } from './typed-length';

/** What the server takes, µs. */
const LEAST_US = 30e6;
const MOST_US = 7_200e6;

const formSchema = z.object({
  attention: typedLength.refine(
    (us) => us !== null && us >= LEAST_US && us <= MOST_US,
    'Between 0:30 and 120:00.',
  ),
});

interface Props {
  readonly attentionUs: Us;
  readonly onDone: () => void;
}

/** Where attention usually ends, to be changed. */
export const AttentionForm = ({ attentionUs, onDone }: Props) => {
  const form = useForm({
    resolver: zodResolver(formSchema),
    defaultValues: { attention: formatClock(attentionUs) },
  });
  const { setFocus } = form;
  useEffect(() => setFocus('attention'), [setFocus]);
  const set = useSetDestinations((us: number) =>
    call('setAttention', { body: { attentionUs: us } }),
  );
  const save = form.handleSubmit(({ attention }) => set.mutate(attention!, { onSuccess: onDone }));
  return (
    <View style={styles.group}>
      <Controller
        control={form.control}
        name="attention"
        render={({ field, fieldState }) => (
          <Field
            ref={field.ref}
            label="Attention usually ends after"
            unit={CLOCK}
            hint="As 5:00. The gauge marks it on every screen."
            value={field.value}
            onChangeText={field.onChange}
            onSubmitEditing={() => void save()}
            problem={fieldState.error?.message}
          />
        )}
      />
      {set.error ? <ProblemNotice code={codeOf(set.error)} /> : null}
      <View style={styles.actions}>
        <Button small kind="main" label="Keep it" onPress={() => void save()} />
        <Button small label="Cancel" onPress={onDone} />
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  actions: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
