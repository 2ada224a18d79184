import { entrySchema } from '@under-chalk/core/edit/edit';
import * as z from 'zod';

const PREFIX = 'under-chalk edits';

const keptSchema = z.object({
  /** The revision that whoever made them had seen. */
  baseRevision: z.number().int().min(0),
  entries: z.array(entrySchema),
});
type Kept = z.infer<typeof keptSchema>;

const keyOf = (lessonId: string, tab: string) => `${PREFIX} ${lessonId} ${tab}`;

/**
 * Edits that the server has not answered for, kept in the browser under the tab that made them: what
 * was typed outlives the tab. A tab holds a lock on its name, so that another can tell those of a
 * closed tab from those that are on their way.
 */
export const keepWaiting = (lessonId: string, tab: string, kept: Kept): void => {
  try {
    const key = keyOf(lessonId, tab);
    if (kept.entries.length === 0) localStorage.removeItem(key);
    else localStorage.setItem(key, JSON.stringify(kept));
  } catch {
    // A private window may have no store, and a full one takes no more; the tab still holds them.
  }
};

/** Holds a tab's name until it closes. @returns lets go of it */
export const holdTab = (tab: string): (() => void) => {
  let release = () => {};
  const held = new Promise<void>((resolve) => {
    release = resolve;
  });
  if ('locks' in navigator) void navigator.locks.request(`${PREFIX} ${tab}`, () => held);
  return () => release();
};

/** Takes over the edits of a lesson that closed tabs left behind, in the order of their tabs' names. */
export const adoptWaiting = async (lessonId: string): Promise<Kept[]> => {
  if (!('locks' in navigator)) return [];
  const prefix = keyOf(lessonId, '');
  const { held = [] } = await navigator.locks.query();
  const open = new Set(held.map((lock) => lock.name));
  const left = Object.keys(localStorage)
    .filter((key) => key.startsWith(prefix))
    .filter((key) => !open.has(`${PREFIX} ${key.slice(prefix.length)}`))
    .sort();
  return left.flatMap((key) => {
    const text = localStorage.getItem(key);
    localStorage.removeItem(key);
    try {
      return [keptSchema.parse(JSON.parse(text ?? ''))];
    } catch (error) {
      console.error('edits left by a closed tab can’t be read', key, error);
      return [];
    }
  });
};
