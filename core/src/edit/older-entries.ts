import * as z from 'zod';
import type { Id } from '../lesson/take';
import { applyEdit } from './apply-edit';
import { NEW_DECISIONS, type Decisions } from './decisions';
import { editSchema, kindOfEdit, type AnyKind, type Edit } from './edit';
import type { Entry } from './entry';
import type { OlderForm } from './kind';
import { KINDS } from './kinds';

const formSchema = z.looseObject({ do: z.string() });

/**
 * Reads an edit in whatever form it was written down.
 *
 * @param before the decisions as they stood then: an older form may have counted places in them
 * @returns null for what no kind knows
 */
export const readEdit = (written: unknown, before: Decisions): Edit | null => {
  const today = editSchema.safeParse(written);
  if (today.success) return today.data;
  const form = formSchema.safeParse(written);
  if (!form.success) return null;
  for (const { older } of KINDS as unknown as readonly AnyKind[]) {
    const plain = older?.(form.data as OlderForm, before);
    const read = editSchema.safeParse(plain ?? null);
    if (read.success) return read.data;
  }
  return null;
};

/**
 * Lists as they once were: bare edits, and undos that took back whatever stood last. Each is read as it stood
 * when it was made, and each undo is given the name of what it took back.
 *
 * @param idOf the id for the entry at a place
 * @returns an entry for each, in order; null for what is of no kind, and for an undo of nothing
 */
export const fromOlderList = (
  list: readonly unknown[],
  idOf: (index: number) => Id,
): (Entry | null)[] => {
  /** Edits as they were read, at their places in the list; those taken back not among them. */
  const standing = new Map<number, Edit>();
  const undone: number[] = [];
  let decisions = NEW_DECISIONS;
  const undoable = (edit: Edit) => kindOfEdit(edit).isUndoable(edit);
  const played = () =>
    [...standing]
      .sort(([a], [b]) => a - b)
      .reduce((all, [, edit]) => applyEdit(all, edit), NEW_DECISIONS);
  const read = new Map<number, Edit>();
  return list.map((written, index) => {
    const entry = (edit: Entry['edit']): Entry => ({ id: idOf(index), by: 'teacher', edit });
    const name = formSchema.safeParse(written).data?.do;
    if (name === 'undo') {
      const last = [...standing.keys()]
        .sort((a, b) => b - a)
        .find((at) => undoable(standing.get(at)!));
      if (last === undefined) return null;
      standing.delete(last);
      undone.push(last);
      decisions = played();
      return entry({ do: 'undo', entries: [idOf(last)] });
    }
    if (name === 'redo') {
      const last = undone.pop();
      if (last === undefined) return null;
      standing.set(last, read.get(last)!);
      decisions = played();
      return entry({ do: 'redo', entries: [idOf(last)] });
    }
    const edit = readEdit(written, decisions);
    if (!edit) return null;
    read.set(index, edit);
    standing.set(index, edit);
    decisions = applyEdit(decisions, edit);
    if (undoable(edit)) undone.length = 0;
    return entry(edit);
  });
};
