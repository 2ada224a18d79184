import { StyleSheet, View } from 'react-native';
import type { Film } from '@under-chalk/core/film/film';
import { ofMedium } from '@under-chalk/core/lesson/medium';
import { trackOf, type Take } from '@under-chalk/core/lesson/take';
import { dbInWords, NOT_HEARD_DB, type GainKind } from '@under-chalk/core/sound/gains';
import { middleOf } from '@under-chalk/core/time/ranges';
import { at } from '@under-chalk/core/time/timeline';
import { useEdits } from '../../data/edits';
import { Button } from '../../ui/button';
import { ChoiceLine } from '../../ui/choice-line';
import { Choices } from '../../ui/choices';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import type { OpenStretch } from './open-stretch';
import { SpeakPanel } from './speaking/speak-panel';

/** dB. */
const LEVELS = [NOT_HEARD_DB, -12, -6, 0, 4, 9];

const labelOf = (db: number): string => (db === 0 ? 'as it is' : dbInWords(db));

const NAMES: Readonly<Record<GainKind, string>> = {
  voice: 'The voice here is',
  'computer-sound': 'The computer here is',
};

interface Props {
  readonly film: Film;
  readonly take: Take;
  readonly stretch: OpenStretch;
}

/** What is heard of what is chosen: nothing, while its picture goes on; or each of its sounds louder or quieter. */
export const SoundPanel = ({ film, take, stretch }: Props) => {
  const { put } = useEdits();
  const sounding = ofMedium(take.tracks, 'sound');
  if (sounding.length === 0) return null;
  const { takeId, startUs, endUs } = stretch;
  const { muted } = film.lesson.decisions;
  const silent = at(muted, takeId, middleOf(stretch)) !== undefined;
  return (
    <>
      <View style={styles.buttons}>
        <Button
          small
          label={silent ? 'Unmute' : 'Mute'}
          spoken={silent ? 'Unmute' : 'Mute: its picture goes on'}
          onPress={() => put({ do: 'mute', takeId, startUs, endUs, silent: !silent })}
        />
        {silent ? (
          <Words size="small" tone="soft" role="status">
            Nothing is heard here.
          </Words>
        ) : null}
      </View>
      {(['voice', 'computer-sound'] as const)
        .filter((kind) => !silent && trackOf(take, kind))
        .map((kind) => (
          <LevelLineOf key={kind} {...{ film, kind, stretch }} />
        ))}
      {silent ? null : <SpeakPanel film={film} stretch={stretch} />}
    </>
  );
};

const LevelLineOf = ({
  film,
  kind,
  stretch,
}: Omit<Props, 'take'> & { readonly kind: GainKind }) => {
  const { put } = useEdits();
  const { takeId, startUs, endUs } = stretch;
  const levels = film.lesson.decisions.gains[kind];
  const db = at(levels, takeId, middleOf(stretch))?.db ?? 0;
  return (
    <ChoiceLine label={NAMES[kind]} value={labelOf(db)}>
      <Choices
        label={NAMES[kind]}
        hideLabel
        choices={LEVELS.map((one) => ({ value: String(one), label: labelOf(one) }))}
        value={String(db)}
        onChoose={(chosen) =>
          put({
            ...{ do: 'set-gain', takeId, startUs, endUs, of: kind },
            db: Number(chosen) || null,
          })
        }
      />
    </ChoiceLine>
  );
};

const styles = StyleSheet.create({
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small, alignItems: 'center' },
});
