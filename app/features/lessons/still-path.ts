import { pathTo } from '@under-chalk/core/contract/api';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import { trackOf, type Take } from '@under-chalk/core/lesson/take';
import type { Us } from '@under-chalk/core/time/us';

/** A short name for a text (FNV-1a, 32 bits): what is named alike by chance shows an older picture, and no more. */
const nameOf = (text: string): string => {
  let hash = 0x811c9dc5;
  for (let at = 0; at < text.length; at++) {
    hash = Math.imul(hash ^ text.charCodeAt(at), 0x01000193) >>> 0;
  }
  return hash.toString(36);
};

/** What was changed about the writing of takes, named; found once for each state of a lesson. */
const NAMES = new WeakMap<Lesson['decisions'], Map<string, string | null>>();

const changedName = ({ decisions }: Lesson, takeId: string): string | null => {
  const names = NAMES.get(decisions) ?? new Map<string, string | null>();
  NAMES.set(decisions, names);
  let name = names.get(takeId);
  if (name === undefined) {
    const changes = [...decisions.addedInk, ...decisions.inkChanges].filter(
      (one) => one.takeId === takeId,
    );
    name = changes.length > 0 ? nameOf(JSON.stringify(changes)) : null;
    names.set(takeId, name);
  }
  return name;
};

/** Where the picture of a moment of a take is, all of its surface; of a board as the lesson has it. */
export const stillPath = (
  lesson: Lesson,
  take: Take,
  atUs: Us,
  size: 'small' | 'large' = 'small',
  of: 'surface' | 'camera' = 'surface',
): string => {
  const path = `${pathTo('still', { takeId: take.id })}?atUs=${Math.round(atUs)}${size === 'large' ? '&size=large' : ''}`;
  if (of === 'camera') return `${path}&of=camera`;
  const changed = trackOf(take, 'ink') ? changedName(lesson, take.id) : null;
  return changed === null ? path : `${path}&lessonId=${lesson.id}&changed=${changed}`;
};
