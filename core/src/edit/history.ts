import { NEW_DECISIONS, type Decisions } from '../lesson/lesson';
import { applyEdit } from './apply-edit';
import { kindOfEdit, type Edit, type Entry } from './edit';

/** What a list of edits comes to. */
export interface History {
  readonly decisions: Decisions;
  readonly canUndo: boolean;
  readonly canRedo: boolean;
}

const isUndoable = (edit: Edit): boolean => kindOfEdit(edit).isUndoable(edit);

/**
 * Plays a list of edits from the beginning. An `undo` takes back the last edit still standing that
 * can be undone; a `redo` brings back the last one taken back; a new edit makes redo impossible.
 * Both are entries of the list themselves, so nothing is ever taken out of it.
 */
export const replay = (entries: readonly Entry[]): History => {
  const standing = new Set<number>();
  const undone: number[] = [];
  entries.forEach((entry, index) => {
    if (entry.do === 'undo') {
      const last = [...standing].reverse().find((at) => isUndoable(entries[at] as Edit));
      if (last !== undefined) {
        standing.delete(last);
        undone.push(last);
      }
    } else if (entry.do === 'redo') {
      const last = undone.pop();
      if (last !== undefined) standing.add(last);
    } else {
      standing.add(index);
      if (isUndoable(entry)) undone.length = 0;
    }
  });
  const edits = [...standing].sort((a, b) => a - b).map((at) => entries[at] as Edit);
  return {
    decisions: edits.reduce(applyEdit, NEW_DECISIONS),
    canUndo: edits.some(isUndoable),
    canRedo: undone.length > 0,
  };
};
