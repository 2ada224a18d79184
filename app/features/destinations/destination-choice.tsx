import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import {
  FREE_DESTINATION,
  limitsInWords,
  type Destination,
} from '@under-chalk/core/destination/destination';
import { formatSpoken } from '@under-chalk/core/time/us';
import { newId } from '../../capture/new-id';
import { call, codeOf } from '../../data/client';
import { useDestinations, useSetDestinations } from '../../data/queries';
import { Button } from '../../ui/button';
import { Choices } from '../../ui/choices';
import { Field } from '../../ui/field';
import { ProblemNotice } from '../../ui/notice';
import { SPACE } from '../../ui/theme';
import { DestinationForm, lengthIn } from './destination-form';

interface Props {
  readonly value: string;
  readonly onChoose: (id: string) => void;
}

/** Where a lesson goes, and the way to change what the places ask for. */
export const DestinationChoice = ({ value, onChoose }: Props) => {
  const { data } = useDestinations();
  const [open, setOpen] = useState<{ place: Destination; isNew: boolean } | 'attention' | null>(
    null,
  );
  const destinations = data?.destinations ?? [];
  const chosen = destinations.find((place) => place.id === value);
  return (
    <View style={styles.group}>
      <Choices
        label="Where does it go?"
        stacked
        choices={destinations.map((place) => ({
          value: place.id,
          label: place.name,
          hint: limitsInWords(place),
        }))}
        value={chosen ? value : FREE_DESTINATION.id}
        onChoose={onChoose}
      />
      {open === null ? (
        <View style={styles.actions}>
          {chosen ? (
            <Button
              small
              label="Change these limits"
              spoken={`Change the limits of ${chosen.name}`}
              onPress={() => setOpen({ place: chosen, isNew: false })}
            />
          ) : null}
          <Button
            small
            label="Add a destination"
            onPress={() =>
              setOpen({ place: { ...FREE_DESTINATION, id: newId(), name: '' }, isNew: true })
            }
          />
          <Button
            small
            label={`Attention ends at ${formatSpoken(data?.attentionUs ?? 0)}`}
            spoken="Change where attention usually ends"
            onPress={() => setOpen('attention')}
          />
        </View>
      ) : open === 'attention' ? (
        <AttentionForm onDone={() => setOpen(null)} />
      ) : (
        <DestinationForm
          key={open.place.id}
          {...open}
          onDone={(id) => {
            setOpen(null);
            if (id) onChoose(id);
          }}
        />
      )}
    </View>
  );
};

const AttentionForm = ({ onDone }: { onDone: () => void }) => {
  const [text, setText] = useState('');
  const [wrong, setWrong] = useState(false);
  const set = useSetDestinations((attentionUs: number) =>
    call('setAttention', { body: { attentionUs } }),
  );
  const save = () => {
    const us = lengthIn(text);
    if (!us || us < 30e6 || us > 7200e6) return setWrong(true);
    set.mutate(us, { onSuccess: onDone });
  };
  return (
    <View style={styles.group}>
      <Field
        label="Attention usually ends after"
        hint="As 5:00. The gauge marks it on every screen."
        value={text}
        onChangeText={(typed) => {
          setText(typed);
          setWrong(false);
        }}
        onSubmitEditing={save}
        problem={wrong ? 'Between 0:30 and 120:00.' : undefined}
      />
      {set.error ? <ProblemNotice code={codeOf(set.error)} /> : null}
      <View style={styles.actions}>
        <Button small kind="main" label="Keep it" onPress={save} />
        <Button small label="Leave it" onPress={onDone} />
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  actions: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
