import type { Id } from '../lesson/take';
import { applyEdit } from './apply-edit';
import { NEW_DECISIONS, type Decisions } from './decisions';
import { isEdit, type Edit } from './edit';
import { isKnown, type Entry, type ReadEntry } from './entry';
import { StepList, type Steps } from './steps';

/** What a list of entries comes to. Made by {@link replay}, and taken on by {@link continued}. */
export interface History {
  readonly entries: readonly ReadEntry[];
  readonly decisions: Decisions;
  readonly steps: Steps;
  /** How many entries are of kinds that this version doesn't know. */
  readonly unknown: number;
  /** Entries that were taken back and not brought back. */
  readonly undone: ReadonlySet<Id>;
}

type EditEntry = Entry & { readonly edit: Edit };
const isEditEntry = (entry: ReadEntry): entry is EditEntry => isKnown(entry) && isEdit(entry.edit);

export const NEW_HISTORY: History = {
  entries: [],
  decisions: NEW_DECISIONS,
  steps: { undo: [], redo: [] },
  unknown: 0,
  undone: new Set(),
};

/**
 * A history with entries put at its end. One whose id is there already is left out: sent twice, it is put down
 * once. An undo takes the entries that it names out of what stands; an edit keeps its place in the list, so
 * that a redo puts it back there.
 */
export const continued = (history: History, more: readonly ReadEntry[]): History => {
  if (more.length === 0) return history;
  const known = new Set(history.entries.map(({ id }) => id));
  const entries = [...history.entries];
  const undone = new Set(history.undone);
  const steps = new StepList(history.steps);
  let { decisions, unknown } = history;
  let turnedBack = false;
  for (const entry of more) {
    if (known.has(entry.id)) continue;
    known.add(entry.id);
    entries.push(entry);
    if (!isKnown(entry)) {
      unknown++;
      continue;
    }
    steps.add(entry);
    const act = entry.edit;
    if (isEdit(act)) {
      if (!undone.has(entry.id)) decisions = applyEdit(decisions, act);
    } else {
      turnedBack = true;
      for (const id of act.entries) {
        if (act.do === 'undo') undone.add(id);
        else undone.delete(id);
      }
    }
  }
  if (turnedBack) {
    decisions = entries
      .filter(isEditEntry)
      .filter(({ id }) => !undone.has(id))
      .reduce((before, { edit }) => applyEdit(before, edit), NEW_DECISIONS);
  }
  return { entries, decisions, steps: steps.steps(), unknown, undone };
};

/** Plays a list of entries from the beginning. */
export const replay = (entries: readonly ReadEntry[]): History => continued(NEW_HISTORY, entries);
