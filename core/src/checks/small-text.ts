import type { Act } from '../edit/edit';
import { totalOf } from '../time/ranges';
import { formatClock, formatSpoken } from '../time/us';
import type { Check } from './check';
import { LEAST_LETTERS_PX, type PicturesSeen } from './pictures-seen';

/** Whether what is written can be read on a phone. */
export const smallTextCheck = ({ small, texts }: PicturesSeen): Check[] => {
  const [first] = small;
  if (!first) {
    if (texts.size === 0) return [];
    const sentence = 'What is written in its picture can be read on a phone.';
    return [{ id: 'small-text', verdict: 'good', sentence }];
  }
  const acts = small.flatMap(({ span, recorded, part }): Act[] =>
    part
      ? [
          {
            ...{ do: 'set-close-up', takeId: span.take.id },
            ...recorded,
            closeUp: { part, pace: 'middling' },
          },
        ]
      : [],
  );
  const letters = Math.max(1, Math.floor(Math.min(...small.map(({ lettersPx }) => lettersPx))));
  const where =
    small.length > 1
      ? `for ${formatSpoken(totalOf(small))}, first at ${formatClock(first.startUs)}`
      : `for ${formatSpoken(totalOf(small))} from ${formatClock(first.startUs)} on`;
  const sentence = `On a phone most of what is written is too small to read ${where}: letters of ${letters} px, and ${LEAST_LETTERS_PX} are the least.`;
  return [
    {
      ...{ id: 'small-text', verdict: 'look', sentence, atUs: first.startUs },
      mend:
        acts.length > 0
          ? {
              words: acts.length < small.length ? 'Zoom in where it fits' : 'Zoom in there',
              acts,
            }
          : { words: 'Zoom in on it in Tidy', step: 'tidy' },
    },
  ];
};
