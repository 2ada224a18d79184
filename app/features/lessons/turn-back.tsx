import { stepInWords, type Step, type Steps } from '@under-chalk/core/edit/steps';
import { useEdits } from '../../data/edits';
import { Button } from '../../ui/button';

/** Undo and redo: each says what it takes back, or brings back, to a screen reader. */
export const TurnBack = ({ steps }: { steps: Steps }) => (
  <>
    <Turn label="Undo" step={steps.undo.at(-1)} act="undo" />
    <Turn label="Redo" step={steps.redo.at(-1)} act="redo" />
  </>
);

interface Props {
  readonly label: string;
  readonly step: Step | undefined;
  readonly act: 'undo' | 'redo';
}

const Turn = ({ label, step, act }: Props) => {
  const { put } = useEdits();
  return (
    <Button
      label={label}
      spoken={step ? `${label}: ${stepInWords(step)}` : label}
      disabled={!step}
      onPress={() => step && put({ do: act, entries: [...step.entries] })}
    />
  );
};
