import type { Staying } from '@under-chalk/core/ink/pen';
import { usePart } from '../../data/live-value';
import { Choices } from '../../ui/choices';
import type { LiveBoard } from './live-board';

/** Long enough to say what it is for, µs. */
const FADES_US = 5_000_000;

export const STAYING_CHOICES = [
  { value: 'wiped', label: 'until it is wiped', hint: 'There again when its page is.' },
  { value: 'turned', label: 'until the page is turned', hint: '' },
  { value: 'film', label: 'to the end', hint: 'Whatever page is shown.' },
  { value: 'fades', label: 'for five seconds', hint: 'Then it fades: for pointing at something.' },
] as const;
type Choice = (typeof STAYING_CHOICES)[number]['value'];

export const stayingOf = (choice: Choice): Staying => (choice === 'fades' ? FADES_US : choice);

export const choiceOf = (stays: Staying): Choice => (typeof stays === 'number' ? 'fades' : stays);

/** How long something stays, as it would be said. */
export const stayingWords = (stays: Staying): string => {
  if (typeof stays === 'number' && stays !== FADES_US) return `for ${stays / 1e6} seconds`;
  return STAYING_CHOICES.find(({ value }) => value === choiceOf(stays))!.label;
};

/** How long what is drawn from now on stays. */
export const StayingChoice = ({ board }: { board: LiveBoard }) => {
  const stays = usePart(board, (view) => view.stays);
  return (
    <Choices
      label="What you write from now on stays"
      stacked
      choices={STAYING_CHOICES}
      value={choiceOf(stays)}
      onChoose={(choice) => board.choose({ stays: stayingOf(choice) })}
    />
  );
};
