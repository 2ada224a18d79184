import { useMemo, useState } from 'react';
import { StyleSheet, View } from 'react-native';
import * as z from 'zod';
import { pathTo } from '@under-chalk/core/contract/api';
import { recordedAt, type Film } from '@under-chalk/core/film/film';
import { inFilm } from '@under-chalk/core/film/in-film';
import type { TimeRange } from '@under-chalk/core/time/ranges';
import { formatSpoken, formatTenths } from '@under-chalk/core/time/us';
import {
  MOST_DESCRIBED_SIGNS,
  nextPause,
  readOutUs,
  type FilmDescription,
} from '@under-chalk/core/words/audio-description';
import { newId } from '../../capture/new-id';
import { useEdits } from '../../data/edits';
import { useSetting } from '../../data/kept-setting';
import { usePart } from '../../data/live-value';
import type { FilmPlayer } from '../../player/film-player';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { Menu } from '../../ui/menu';
import { Row } from '../../ui/row';
import { Heading, Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';

interface Props {
  readonly film: Film;
  readonly player: FilmPlayer;
  /** Where somebody speaks in the film. */
  readonly speech: readonly TimeRange[];
  readonly onDone: () => void;
}

/** To a tenth of a second, as the clocks say it. */
const TENTH_US = 100_000;

/** What is seen, in words, for those who can't see it: each where the film stands when it is written. */
export const DescribePanel = ({ film, player, speech, onDone }: Props) => {
  const { put } = useEdits();
  const { audioDescriptions } = film.lesson.decisions;
  // What is being typed outlives the page, and belongs to its lesson.
  const [typed, setTyped] = useSetting(`describing ${film.lesson.id}`, z.string(), '');
  const [open, setOpen] = useState<string | null>(null);
  const atUs = usePart(player, ({ filmUs }) => Math.floor(filmUs / TENTH_US) * TENTH_US);
  const shown = useMemo(() => inFilm(film, audioDescriptions), [film, audioDescriptions]);
  const hidden = audioDescriptions.length - new Set(shown.map((one) => one.of.id)).size;
  const place = recordedAt(film, atUs);
  const pauseUs = nextPause(speech, film.durationUs, atUs + TENTH_US);
  const text = typed.trim();
  const putHere = () => {
    if (!place || text === '') return;
    const id = newId();
    put({
      do: 'set-audio-description',
      id,
      description: { id, takeId: place.takeId, atUs: place.takeUs, text },
    });
    setTyped('');
  };
  return (
    <View style={styles.panel}>
      <Heading level={2}>What is seen</Heading>
      <Words size="small" tone="soft">
        For whoever can’t see the film. It is read out where it stands, and the film waits
        meanwhile.
      </Words>
      <Field
        label={`Seen at ${formatTenths(atUs)}`}
        hint="What your words don’t say: what is drawn, shown or pointed at."
        multiline
        value={typed}
        maxLength={MOST_DESCRIBED_SIGNS}
        onChangeText={setTyped}
        style={styles.field}
      />
      <View style={styles.buttons}>
        <Button
          small
          kind="main"
          label={`Put it at ${formatTenths(atUs)}`}
          disabled={text === '' || place === null}
          onPress={putHere}
        />
        <Button
          small
          label="To the next pause"
          spoken="Go to the next place where nobody speaks"
          disabled={pauseUs === null}
          onPress={() => {
            player.pause();
            void player.seek(pauseUs!);
          }}
        />
        {shown.length > 0 ? (
          <Button
            small
            label="Save as WebVTT"
            onPress={() => location.assign(pathTo('describedFile', { lessonId: film.lesson.id }))}
          />
        ) : null}
        <Button small label="Back to the captions" onPress={onDone} />
      </View>
      {shown.length > 0 ? (
        <View style={styles.panel} role="list" aria-label="What is seen">
          {shown.map((one, index) => (
            <DescriptionRow
              key={`${one.of.id} ${one.placementId}`}
              number={index + 1}
              one={one}
              atUs={atUs}
              here={place}
              open={open === one.of.id}
              onShow={() => void player.seek(one.filmUs)}
              onOpen={setOpen}
            />
          ))}
        </View>
      ) : null}
      {hidden > 0 ? (
        <Words size="small" tone="soft">
          {`${hidden === 1 ? 'One more belongs' : `${hidden} more belong`} to what was cut or left out; bring that back, and ${hidden === 1 ? 'it is' : 'they are'} here again.`}
        </Words>
      ) : null}
    </View>
  );
};

interface RowProps {
  readonly number: number;
  readonly one: FilmDescription;
  /** Where the film stands, and where that was recorded. */
  readonly atUs: number;
  readonly here: ReturnType<typeof recordedAt>;
  readonly open: boolean;
  readonly onShow: () => void;
  readonly onOpen: (id: string | null) => void;
}

/** One description: when, what, and how long the film waits for it; opened, it is mended. */
const DescriptionRow = ({ number, one, atUs, here, open, onShow, onOpen }: RowProps) => {
  const { put } = useEdits();
  const { of: description, filmUs } = one;
  const [text, setText] = useState(description.text);
  const [known, setKnown] = useState(description.text);
  // It was changed from elsewhere: by undo, or in another tab.
  if (known !== description.text) {
    setKnown(description.text);
    setText(description.text);
  }
  const change = (part: Partial<typeof description>) =>
    put({
      do: 'set-audio-description',
      id: description.id,
      description: { ...description, ...part },
    });
  const keep = () => {
    const now = text.trim();
    if (now !== '' && now !== description.text) change({ text: now });
  };
  return (
    <Row>
      <Button
        small
        kind="bare"
        label={formatTenths(filmUs)}
        spoken={`Go to ${formatSpoken(filmUs)}`}
        onPress={onShow}
      />
      <View style={styles.words}>
        {open ? (
          <Field
            label={`Words of description ${number}`}
            hideLabel
            multiline
            value={text}
            maxLength={MOST_DESCRIBED_SIGNS}
            onChangeText={setText}
            onBlur={keep}
            style={styles.field}
          />
        ) : (
          <Words>{description.text}</Words>
        )}
        <Words size="small" tone="soft">
          {`the film waits ${Math.round(readOutUs(description.text) / 1e6)} s`}
        </Words>
      </View>
      {open ? (
        <Button
          small
          label="Done"
          onPress={() => {
            keep();
            onOpen(null);
          }}
        />
      ) : null}
      <Menu
        of={`description ${number}`}
        items={[
          { label: 'Change the words', onPress: () => onOpen(description.id) },
          ...(here
            ? [
                {
                  label: `Move it to ${formatTenths(atUs)}`,
                  onPress: () => change({ takeId: here.takeId, atUs: here.takeUs }),
                },
              ]
            : []),
          {
            label: 'Take it away',
            grave: true,
            onPress: () =>
              put({ do: 'set-audio-description', id: description.id, description: null }),
          },
        ]}
      />
    </Row>
  );
};

const styles = StyleSheet.create({
  panel: { gap: SPACE.small },
  field: { minHeight: 64 },
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
  words: { flexGrow: 1, flexShrink: 1, flexBasis: 160, gap: 2 },
});
