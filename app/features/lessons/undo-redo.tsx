import type { Step, Steps } from '@under-chalk/core/edit/steps';
import type { Film } from '@under-chalk/core/film/film';
import { stepInWords } from '@under-chalk/core/film/step-in-words';
import { useEdits } from '../../data/edits';
import { Button } from '../../ui/button';

/** Undo and redo: each says what it takes back, or brings back, to a screen reader. */
export const UndoRedo = ({ film, steps }: { film: Film; steps: Steps }) => (
  <>
    <Turn film={film} label="Undo" step={steps.undo.at(-1)} act="undo" />
    <Turn film={film} label="Redo" step={steps.redo.at(-1)} act="redo" />
  </>
);

interface Props {
  readonly film: Film;
  readonly label: string;
  readonly step: Step | undefined;
  readonly act: 'undo' | 'redo';
}

const Turn = ({ film, label, step, act }: Props) => {
  const { put } = useEdits();
  return (
    <Button
      label={label}
      spoken={step ? `${label}: ${stepInWords(film, step)}` : label}
      disabled={!step}
      onPress={() => step && put({ do: act, entries: [...step.entries] })}
    />
  );
};
