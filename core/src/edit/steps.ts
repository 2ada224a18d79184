import * as z from 'zod';
import { idSchema } from '../lesson/take';
import { isEdit, kindOfEdit, MOST_IN_A_STEP, type Edit } from './edit';
import type { Entry } from './entry';
import { ENDS, STRETCH } from './kinds/stretch-of-take';

/** A short description of an edit, and the recorded stretch it refers to; null: none. */
export const saidSchema = z
  .object({
    words: z.string(),
    of: z.object(ENDS).readonly().nullable(),
  })
  .readonly();
export type Said = z.infer<typeof saidSchema>;

export const saidOf = (edit: Edit): Said => {
  const words = kindOfEdit(edit).inWords(edit);
  if (!words.includes(STRETCH)) return { words, of: null };
  const { takeId, startUs, endUs } = edit as Extract<Edit, { do: 'cut' }>;
  return { words, of: { takeId, startUs, endUs } };
};

const isSame = (one: Said, other: Said): boolean =>
  one.words === other.words &&
  one.of?.takeId === other.of?.takeId &&
  one.of?.startUs === other.of?.startUs &&
  one.of?.endUs === other.of?.endUs;

/** What one press did: what one press of undo takes back. */
export const stepSchema = z
  .object({
    entries: z.array(idSchema).readonly(),
    /** The group that its entries belong to; null: it is one alone. */
    group: idSchema.nullable(),
    /** What was done, each in a few words. */
    said: z.array(saidSchema).readonly(),
  })
  .readonly();
export type Step = z.infer<typeof stepSchema>;

/** What can be taken back, and brought back; what is next stands last. */
export const stepsSchema = z
  .object({ undo: z.array(stepSchema).readonly(), redo: z.array(stepSchema).readonly() })
  .readonly();
export type Steps = z.infer<typeof stepsSchema>;

/** The last so many of each. */
export const latestSteps = ({ undo, redo }: Steps, most: number): Steps => ({
  undo: undo.slice(-most),
  redo: redo.slice(-most),
});

/** Follows what can be taken back and brought back, entry by entry. */
export class StepList {
  readonly #undo: Step[];
  #redo: Step[];

  constructor({ undo, redo }: Steps) {
    this.#undo = [...undo];
    this.#redo = [...redo];
  }

  steps(): Steps {
    return { undo: this.#undo, redo: this.#redo };
  }

  add({ id, edit, ...entry }: Entry): void {
    const group = entry.group ?? null;
    if (!isEdit(edit)) {
      const named = new Set(edit.entries);
      if (edit.do === 'undo') move(named, this.#undo, this.#redo);
      else move(named, this.#redo, this.#undo);
      return;
    }
    const kind = kindOfEdit(edit);
    if (!kind.isUndoable(edit)) return;
    // What is decided anew can't be brought back over by what was there before.
    this.#redo = [];
    const now = saidOf(edit);
    const last = this.#undo.at(-1);
    if (last && group !== null && last.group === group && last.entries.length < MOST_IN_A_STEP) {
      const isSaid = last.said.some((one) => isSame(one, now));
      const said = isSaid ? last.said : [...last.said, now];
      this.#undo[this.#undo.length - 1] = { ...last, entries: [...last.entries, id], said };
    } else {
      this.#undo.push({ entries: [id], group, said: [now] });
    }
  }
}

/** Moves the steps that are about any of the named entries to the end of another list. */
const move = (named: ReadonlySet<string>, from: Step[], to: Step[]): void => {
  for (let index = from.length - 1; index >= 0; index--) {
    const step = from[index]!;
    if (step.entries.some((id) => named.has(id))) {
      from.splice(index, 1);
      to.push(step);
    }
  }
};
