import { BIN_DAYS } from '@under-chalk/core/contract/bin';
import type { ClassView } from '@under-chalk/core/contract/classes';
import type { LessonRow } from '@under-chalk/core/contract/lessons';
import { firstGrants } from '@under-chalk/core/share-link/first-grants';
import { grantTo } from '@under-chalk/core/share-link/grant';
import { asSentence } from '@under-chalk/core/text/as-sentence';
import { call } from '../../data/client';
import { counted } from '../../ui/counted';

/** What was done with several lessons. */
export interface Done {
  readonly title: string;
  readonly text: string;
  /** Takes it back; null: there is nothing to be taken back. */
  readonly back: (() => Promise<void>) | null;
}

/** One after another, and what failed keeps none of the others from it. @returns those that went well */
const each = async <T, R>(
  all: readonly T[],
  work: (one: T) => Promise<R>,
): Promise<{ done: R[]; failed: number }> => {
  const done: R[] = [];
  for (const one of all) {
    await work(one).then(
      (result) => done.push(result),
      () => undefined,
    );
  }
  return { done, failed: all.length - done.length };
};

/** Why some of them were left out, in words. */
const leftWords = (left: readonly (readonly [count: number, why: string])[]): string =>
  left
    .filter(([count]) => count > 0)
    .map(([count, why]) => `${asSentence(counted(count, 'lesson'))} left out: ${why}.`)
    .join(' ');

/** One after the other; empty ones are left out. */
const sentences = (...all: readonly string[]): string => all.filter(Boolean).join(' ');

/** Puts lessons into the bin. */
export const deleteSeveral = async (lessons: readonly LessonRow[]): Promise<Done> => {
  const { done, failed } = await each(lessons, async ({ id }) => {
    await call('moveToBin', { params: { kind: 'lesson', id } });
    return id;
  });
  return {
    title: `${asSentence(counted(done.length, 'lesson'))} in the bin.`,
    text: sentences(
      `What is there stays for ${BIN_DAYS} days.`,
      leftWords([[failed, 'something went wrong']]),
    ),
    back: async () => {
      await each(done, (id) => call('restoreFromBin', { params: { kind: 'lesson', id } }));
    },
  };
};

/** Puts lessons into the archive, or takes them out of it. */
export const archiveSeveral = async (
  lessons: readonly LessonRow[],
  archived: boolean,
): Promise<Done> => {
  const archive = (ids: readonly string[], to: boolean) =>
    call('archiveLessons', { body: { lessonIds: [...ids], archived: to } });
  const { changed } = await archive(
    lessons.map(({ id }) => id),
    archived,
  );
  const those = asSentence(counted(changed.length, 'lesson'));
  return {
    title: archived ? `${those} in the archive.` : `${those} among the others again.`,
    text: archived ? 'Nothing else is changed: links that are handed out go on.' : '',
    back:
      changed.length === 0
        ? null
        : async () => {
            await archive(changed, !archived);
          },
  };
};

/**
 * Hands lessons out, each to the class that it is of, on the pages of its students; those whose title names some of them, to
 * these alone. Those that are handed out already, have
 * nothing in them, or are of no class with students, are left out, and told of.
 */
export const handOutSeveral = async (lessons: readonly LessonRow[]): Promise<Done> => {
  // As they are now: what a page that has just been opened knows of them may not be there yet.
  const [classes, { destinations: places }] = await Promise.all([
    call('classes'),
    call('destinations'),
  ]);
  const classOf = (lesson: LessonRow) =>
    classes.find(({ name, students }) => name === lesson.className && students > 0);
  const out = lessons.filter(({ handedOut }) => handedOut);
  const empty = lessons.filter((one) => !out.includes(one) && one.filmUs === 0);
  const rest = lessons.filter((one) => !out.includes(one) && !empty.includes(one));
  const ready = rest.filter((one) => classOf(one));
  const inClass = new Map<string, Promise<ClassView>>();
  const studentsOf = async (classId: string) => {
    const asked = inClass.get(classId) ?? call('class', { params: { classId } });
    inClass.set(classId, asked);
    return (await asked).students;
  };
  let personal = 0;
  const { done, failed } = await each(ready, async (lesson) => {
    const classId = classOf(lesson)!.id;
    const theirs = grantTo({ is: 'class', classId });
    const { grants, named } = firstGrants(lesson.title, await studentsOf(classId), theirs);
    const given = await call('createShareLink', {
      params: { lessonId: lesson.id },
      body: {
        size: places.find(({ id }) => id === lesson.destinationId)?.size ?? '720p',
        grants,
      },
    });
    if (named.length > 0) personal++;
    return given;
  });
  const isAllPersonal = personal > 0 && personal === done.length;
  return {
    title: `${asSentence(counted(done.length, 'lesson'))} handed out, ${isAllPersonal ? 'only to whom the title names' : 'each to its class'}.`,
    text: sentences(
      personal > 0 && !isAllPersonal
        ? `${asSentence(counted(personal, 'lesson'))} only to whom its title names.`
        : '',
      leftWords([
        [out.length, 'handed out already'],
        [empty.length, 'nothing in the film'],
        [rest.length - ready.length, 'of no class with students'],
        [failed, 'something went wrong'],
      ]),
    ),
    back:
      done.length === 0
        ? null
        : async () => {
            await each(done, ({ id }) => call('revokeShareLink', { params: { shareLinkId: id } }));
          },
  };
};
