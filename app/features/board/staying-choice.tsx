import type { Staying } from '@under-chalk/core/ink/pen';
import { usePart } from '../../data/live-value';
import { Choices } from '../../ui/choices';
import type { LiveBoard } from './live-board';

/** Long enough to say what it is for, µs. */
const FADES_US = 5_000_000;

const CHOICES = [
  { value: 'wiped', label: 'until it is wiped', hint: 'There again when its page is.' },
  { value: 'turned', label: 'until the page is turned', hint: '' },
  { value: 'film', label: 'to the end', hint: 'Whatever page is shown.' },
  { value: 'fades', label: 'for five seconds', hint: 'Then it fades: for pointing at something.' },
] as const;
type Choice = (typeof CHOICES)[number]['value'];

const stayingOf = (choice: Choice): Staying => (choice === 'fades' ? FADES_US : choice);

/** How long what is drawn from now on stays. */
export const StayingChoice = ({ board }: { board: LiveBoard }) => {
  const stays = usePart(board, (view) => view.stays);
  return (
    <Choices
      label="What you write from now on stays"
      stacked
      choices={CHOICES}
      value={typeof stays === 'number' ? 'fades' : stays}
      onChoose={(choice) => board.choose({ stays: stayingOf(choice) })}
    />
  );
};
