import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import {
  FREE_DESTINATION,
  limitsInWords,
  type Destination,
} from '@under-chalk/core/destination/destination';
import { formatSpoken } from '@under-chalk/core/time/us';
import { newId } from '../../capture/new-id';
import { useDestinations } from '../../data/queries';
import { Button } from '../../ui/button';
import { Choices } from '../../ui/choices';
import { useFocusWhen } from '../../ui/focus';
import { SPACE } from '../../ui/theme';
import { AttentionForm } from './attention-form';
import { DestinationForm } from './destination-form';

/** What can be changed here, each in a form of its own. */
type Opened =
  { readonly form: 'limits' | 'new'; readonly place: Destination } | { readonly form: 'attention' };

interface Props {
  readonly value: string;
  readonly onChoose: (id: string) => void;
}

/** Where a lesson goes, and the way to change what the places ask for. */
export const DestinationChoice = ({ value, onChoose }: Props) => {
  const { data } = useDestinations();
  const [opened, setOpened] = useState<Opened | null>(null);
  const [open, setOpen] = useState(false);
  const openIt = (next: Opened) => {
    setOpened(next);
    setOpen(true);
  };
  // What has been closed gives the focus back to what opened it.
  const isBack = (form: Opened['form']) => !open && opened?.form === form;
  const limits = useFocusWhen(isBack('limits'));
  const another = useFocusWhen(isBack('new'));
  const attention = useFocusWhen(isBack('attention'));
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
      {!open || !opened ? (
        <View style={styles.actions}>
          {chosen ? (
            <Button
              ref={limits}
              small
              label="Change these limits"
              spoken={`Change the limits of ${chosen.name}`}
              onPress={() => openIt({ form: 'limits', place: chosen })}
            />
          ) : null}
          <Button
            ref={another}
            small
            label="Add a destination"
            onPress={() =>
              openIt({ form: 'new', place: { ...FREE_DESTINATION, id: newId(), name: '' } })
            }
          />
          <Button
            ref={attention}
            small
            label={`Attention ends at ${formatSpoken(data?.attentionUs ?? 0)}`}
            spoken="Change where attention usually ends"
            onPress={() => openIt({ form: 'attention' })}
          />
        </View>
      ) : opened.form === 'attention' ? (
        <AttentionForm attentionUs={data?.attentionUs ?? 0} onDone={() => setOpen(false)} />
      ) : (
        <DestinationForm
          key={opened.place.id}
          place={opened.place}
          isNew={opened.form === 'new'}
          onDone={(id) => {
            setOpen(false);
            if (id) onChoose(id);
          }}
        />
      )}
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  actions: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
