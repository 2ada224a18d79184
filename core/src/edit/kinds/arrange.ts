import * as z from 'zod';
import { arrangementSchema } from '../../lesson/arrangement';
import { overlaps, subtract } from '../../time/ranges';
import { always, kindOf } from '../kind';
import { ENDS, FORWARD, runsForward, stretchInWords } from './stretch-of-take';

/** Says how surface and camera share the picture for a stretch. */
export const arrange = kindOf({
  schema: z
    .object({ do: z.literal('arrange'), ...ENDS, arrangement: arrangementSchema })
    .refine(runsForward, FORWARD),
  slice: 'arranged',
  apply(before, { takeId, startUs, endUs, arrangement }) {
    const laid = { startUs, endUs };
    const kept = before.flatMap((stretch) =>
      stretch.takeId === takeId && overlaps(stretch, laid)
        ? subtract([stretch], [laid]).map((part) => ({ ...stretch, ...part }))
        : [stretch],
    );
    return [...kept, { takeId, startUs, endUs, arrangement }];
  },
  touches: ({ takeId, startUs, endUs, arrangement }) => [
    { slot: `arranged ${takeId}`, range: { startUs, endUs }, value: arrangement },
  ],
  isUndoable: always,
  inWords: (edit) => `arranged ${stretchInWords(edit)}`,
});
