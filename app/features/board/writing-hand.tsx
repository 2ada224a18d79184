import * as z from 'zod';
import { readSetting, writeSetting } from '../../data/kept-setting';
import { LiveValue, usePart } from '../../data/live-value';
import { Choices } from '../../ui/choices';

const KEY = 'under-chalk hand';
const handSchema = z.enum(['right', 'left']);
export type WritingHand = z.infer<typeof handSchema>;

/** One for all that shows it: changed in a sheet, the page under it follows. */
const HAND = new LiveValue<WritingHand>(readSetting(KEY, handSchema, 'right'));

const setHand = (hand: WritingHand): void => {
  HAND.set(hand);
  writeSetting(KEY, hand);
};

/** With which hand this teacher writes: the tools stand beside it, and nothing lies under it. */
export const useWritingHand = (): WritingHand => usePart(HAND, (hand) => hand);

const HANDS = [
  { value: 'right', label: 'the right hand' },
  { value: 'left', label: 'the left hand' },
] as const;

export const WritingHandChoice = () => (
  <Choices label="You write with" choices={HANDS} value={useWritingHand()} onChoose={setHand} />
);
