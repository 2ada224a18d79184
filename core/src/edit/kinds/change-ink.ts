import * as z from 'zod';
import { inkChangeSchema, type InkChange } from '../../ink/change';
import { idSchema } from '../../lesson/take';
import { always, kindOf } from '../kind';
import { inkChangesSlice } from '../slices/ink-changes';

/** Most strokes that one edit changes. */
export const MOST_CHANGED = 5_000;

const WORDS: readonly (readonly [keyof InkChange, string])[] = [
  ['colour', 'recoloured'],
  ['width', 'changed the width of'],
  ['text', 'changed the words of'],
  ['stays', 'changed how long it stays:'],
  ['untilUs', 'changed how long it stays:'],
  ['laterUs', 'moved in time'],
  ['x', 'moved'],
  ['y', 'moved'],
];

const idOf = ({ takeId, strokeId }: { takeId: string; strokeId: string }) =>
  `${takeId} ${strokeId}`;

/** Changes strokes of a take: each property against what was recorded, so that none adds up. */
export const changeInk = kindOf({
  schema: z
    .object({
      do: z.literal('change-ink'),
      takeId: idSchema,
      strokes: z.array(idSchema).min(1).max(MOST_CHANGED).readonly(),
      change: inkChangeSchema,
    })
    .refine(({ change }) => Object.keys(change).length > 0, 'nothing is changed'),
  slice: inkChangesSlice,
  apply(before, { takeId, strokes, change }) {
    const named = new Set(strokes);
    const known = new Map(
      before.flatMap((one) =>
        one.takeId === takeId && named.has(one.strokeId) ? [[one.strokeId, one.change]] : [],
      ),
    );
    const others = before.filter((one) => one.takeId !== takeId || !named.has(one.strokeId));
    const changed = [...named].map((strokeId) => ({
      ...{ takeId, strokeId },
      change: { ...known.get(strokeId), ...change },
    }));
    return [...others, ...changed].sort((a, b) => (idOf(a) < idOf(b) ? -1 : 1));
  },
  touches: ({ takeId, strokes, change }) =>
    strokes.flatMap((strokeId) =>
      Object.entries(change).map(([name, value]) => ({
        slot: `ink ${takeId} ${strokeId} ${name}`,
        value,
      })),
    ),
  isUndoable: always,
  inWords({ strokes, change }) {
    const what = strokes.length === 1 ? 'a stroke' : `${strokes.length} strokes`;
    if (change.gone !== undefined) return `${change.gone ? 'took away' : 'brought back'} ${what}`;
    return `${WORDS.find(([name]) => name in change)?.[1] ?? 'changed'} ${what}`;
  },
});
