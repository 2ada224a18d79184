import type { Decisions } from '@under-chalk/core/edit/decisions';
import { readEdit } from '@under-chalk/core/edit/older-entries';
import * as z from 'zod';
import { newId } from '../capture/new-id';
import { nextOrder, type Waiting } from './waiting-edits';

const PREFIX = 'under-chalk edits';

const olderSchema = z.object({
  baseRevision: z.number().int().min(0),
  entries: z.array(z.unknown()),
});

/**
 * Edits that an earlier version left in this browser's `localStorage`, read as they are made today.
 *
 * @param decisions the lesson as it is now: older forms count places in it
 * @returns the edits, and what lets go of them there once they are kept elsewhere
 */
export const olderWaiting = (
  lessonId: string,
  decisions: Decisions,
): { edits: Waiting[]; letGo: () => void } => {
  const keys = Object.keys(localStorage)
    .filter((key) => key.startsWith(`${PREFIX} ${lessonId} `))
    .sort();
  const edits = keys.flatMap((key) => {
    try {
      const { baseRevision, entries } = olderSchema.parse(
        JSON.parse(localStorage.getItem(key) ?? ''),
      );
      return entries.flatMap((written): Waiting[] => {
        const edit = readEdit(written, decisions);
        if (!edit) return [];
        const entry = { id: newId(), by: 'teacher' as const, edit };
        return [{ entry, seen: baseRevision, held: false, order: nextOrder() }];
      });
    } catch (error) {
      console.error('edits left by an earlier version can’t be read', key, error);
      return [];
    }
  });
  return { edits, letGo: () => keys.forEach((key) => localStorage.removeItem(key)) };
};
