import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import type { Film } from '@under-chalk/core/film/film';
import {
  draftOf,
  draftSchema,
  interactionIn,
  NEW_DRAFT,
} from '@under-chalk/core/interaction/draft';
import type { Interaction } from '@under-chalk/core/interaction/interaction';
import { HALF_FRAME_US } from '@under-chalk/core/time/frames';
import { newId } from '../../capture/new-id';
import { useEdits } from '../../data/edits';
import { useSetting } from '../../data/kept-setting';
import { Button } from '../../ui/button';
import { useFocusWhen } from '../../ui/focus';
import { Menu } from '../../ui/menu';
import { Row } from '../../ui/row';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { InteractionForm } from './interaction-form';
import type { OpenStretch } from './open-stretch';

const NAMES: Readonly<Record<Interaction['does']['is'], string>> = {
  ...{ question: 'Question', note: 'Note', link: 'Link', pause: 'Pause' },
};

/** Stands for the id that it is given when it is put down. */
const TO_BE = 'interaction-to-be';

interface Props {
  readonly film: Film;
  readonly stretch: OpenStretch;
}

/** What is asked or said where a stretch ends: students meet it there. */
export const InteractionPanel = ({ film, stretch }: Props) => {
  const { put } = useEdits();
  const { takeId, startUs, endUs } = stretch;
  // In its last picture: with the phrase it is cut, and comes back.
  const atUs = Math.max(startUs, endUs - 2 * HALF_FRAME_US);
  const here = film.lesson.decisions.interactions.filter(
    (one) => one.takeId === takeId && one.atUs >= startUs && one.atUs < endUs,
  );
  const [open, setOpen] = useState<Interaction | 'new' | null>(null);
  // What is being written outlives the page.
  const [draft, setDraft] = useSetting(`asking ${film.lesson.id}`, draftSchema, NEW_DRAFT);
  const [ended, setEnded] = useState(false);
  const way = useFocusWhen(open === null && ended);
  const begin = (interaction: Interaction | 'new') => {
    if (interaction !== 'new') setDraft(draftOf(interaction));
    setEnded(false);
    setOpen(interaction);
  };
  const end = () => {
    setDraft(NEW_DRAFT);
    leave();
  };
  const leave = () => {
    // What is new stays to be gone on with.
    if (open !== 'new') setDraft(NEW_DRAFT);
    setOpen(null);
    setEnded(true);
  };
  const made =
    open === null
      ? null
      : interactionIn(draft, open === 'new' ? { id: TO_BE, takeId, atUs } : open);
  return (
    <View style={styles.group}>
      {here.length > 0 ? (
        <View role="list" aria-label="Asked and said here" style={styles.group}>
          {here.map((interaction) => (
            <Row key={interaction.id}>
              <View style={styles.words}>
                <Words size="small" tone="soft">
                  {NAMES[interaction.does.is]}
                </Words>
                <Words>{interaction.text}</Words>
              </View>
              <Menu
                of={interaction.text}
                items={[
                  { label: 'Change it', onPress: () => begin(interaction) },
                  {
                    label: 'Take it away',
                    grave: true,
                    onPress: () =>
                      put({ do: 'set-interaction', id: interaction.id, interaction: null }),
                  },
                ]}
              />
            </Row>
          ))}
        </View>
      ) : null}
      {open === null ? (
        <View style={styles.buttons}>
          <Button
            small
            ref={way}
            label="Ask or say something after it"
            onPress={() => begin('new')}
          />
        </View>
      ) : (
        <>
          <InteractionForm draft={draft} onChange={setDraft} />
          {made && 'problem' in made ? (
            <Words size="small" tone="soft" role="status">
              {made.problem}
            </Words>
          ) : null}
          <View style={styles.buttons}>
            <Button
              small
              kind="main"
              label={open === 'new' ? 'Put it there' : 'Keep the change'}
              disabled={!made || 'problem' in made}
              onPress={() => {
                if (!made || 'problem' in made) return;
                const interaction =
                  open === 'new' ? { ...made.interaction, id: newId() } : made.interaction;
                put({ do: 'set-interaction', id: interaction.id, interaction });
                end();
              }}
            />
            <Button small label="Cancel" onPress={leave} />
          </View>
        </>
      )}
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
  words: { flexGrow: 1, flexShrink: 1, flexBasis: 180, paddingVertical: SPACE.hair },
});
