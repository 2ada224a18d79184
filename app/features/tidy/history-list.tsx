import { useState } from 'react';
import { Pressable, StyleSheet, View } from 'react-native';
import { MOST_STEPS } from '@under-chalk/core/contract/lessons';
import { MOST_IN_A_STEP, type Act } from '@under-chalk/core/edit/edit';
import type { Step, Steps } from '@under-chalk/core/edit/steps';
import type { Film } from '@under-chalk/core/film/film';
import { stepInWords } from '@under-chalk/core/film/step-in-words';
import { useEdits } from '../../data/edits';
import { Button } from '../../ui/button';
import { Sheet } from '../../ui/sheet';
import { Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';

/** What of a step stands, and how to get to where it was the last one. */
interface Row {
  readonly key: string;
  readonly words: string;
  readonly state: 'taken back' | 'as it is now' | 'done';
  readonly go: () => void;
}

/** Takes steps back, or brings them back: in as many acts as it takes. */
const turned = (act: 'undo' | 'redo', steps: readonly Step[]): Act[] => {
  const entries = steps.flatMap((step) => step.entries);
  const count = Math.ceil(entries.length / MOST_IN_A_STEP);
  return Array.from({ length: count }, (_, n) => ({
    do: act,
    entries: entries.slice(n * MOST_IN_A_STEP, (n + 1) * MOST_IN_A_STEP),
  }));
};

/** First in upper case, as a line begins. */
const capital = (words: string) => words.charAt(0).toLocaleUpperCase() + words.slice(1);

interface Props {
  readonly film: Film;
  readonly steps: Steps;
}

/** All that was done, latest first: a press goes back, or on, to where something was done last. */
export const HistoryList = ({ film, steps }: Props) => {
  const [open, setOpen] = useState(false);
  const { undo, redo } = steps;
  return (
    <>
      <Button
        small
        label="History"
        expanded={open}
        disabled={undo.length + redo.length === 0}
        onPress={() => setOpen(true)}
      />
      <Sheet title="History" open={open} onClose={() => setOpen(false)}>
        <Words size="small" tone="soft">
          The latest first. Press one, and it is as it was after that; nothing is lost by it.
        </Words>
        <View role="list" aria-label="Steps" style={styles.list}>
          <StepRows film={film} steps={steps} />
        </View>
      </Sheet>
    </>
  );
};

const StepRows = ({ film, steps }: Props) => {
  const { put } = useEdits();
  const { undo, redo } = steps;
  const rows: Row[] = [
    // What was taken back last is brought back first.
    ...redo.map((step, index) => ({
      key: step.entries[0]!,
      words: stepInWords(film, step),
      state: 'taken back' as const,
      go: () => put(...turned('redo', redo.slice(index).reverse())),
    })),
    ...[...undo.keys()].reverse().map((index) => ({
      key: undo[index]!.entries[0]!,
      words: stepInWords(film, undo[index]!),
      state: index === undo.length - 1 ? ('as it is now' as const) : ('done' as const),
      go: () => put(...turned('undo', undo.slice(index + 1))),
    })),
    // Of very many only the last are told: then the first of them is not the beginning.
    ...(undo.length < MOST_STEPS
      ? [
          {
            key: 'nothing',
            words: 'as it was at first',
            state: undo.length === 0 ? ('as it is now' as const) : ('done' as const),
            go: () => put(...turned('undo', undo)),
          },
        ]
      : []),
  ];
  return (
    <>
      {rows.map((row) => (
        <View key={row.key} role="listitem">
          <StepRow {...row} />
        </View>
      ))}
    </>
  );
};

const StepRow = ({ words, state, go }: Row) => {
  const theme = useTheme();
  const now = state === 'as it is now';
  return (
    <Pressable
      role="button"
      aria-label={`${capital(words)}, ${state}${now ? '' : '. Go there'}`}
      {...({ 'aria-current': now ? 'step' : undefined } as object)}
      onPress={now ? undefined : go}
      style={[styles.row, { borderColor: now ? theme.action : theme.line }]}
    >
      <Words strong={now} tone={state === 'taken back' ? 'soft' : 'ink'}>
        {capital(words)}
      </Words>
      {state === 'done' ? null : (
        <Words size="small" tone="soft">
          {state}
        </Words>
      )}
    </Pressable>
  );
};

const styles = StyleSheet.create({
  list: { gap: SPACE.hair },
  row: {
    minHeight: 48,
    justifyContent: 'center',
    borderWidth: 1.5,
    borderRadius: RADIUS.small,
    paddingHorizontal: SPACE.medium,
    paddingVertical: SPACE.hair,
  },
});
