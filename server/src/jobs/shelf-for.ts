import { shelfOf } from '@under-chalk/core/class/shelf';
import type { Shelf, ShelfFilm } from '@under-chalk/core/contract/student-pages';
import { mayWatch } from '@under-chalk/core/hand-out/may-watch';
import type { Parts } from '../http/context';
import { activityOf } from '../store/hand-out-store';
import { availabilityOf } from '../store/availability';
import { askingOf, type Visitor } from '../store/token-finder';

/** Films on a page that can be watched now. */
export const openFilms = ({ classes, own }: Pick<Shelf, 'classes' | 'own'>) =>
  [
    ...own,
    ...classes
      .flatMap(({ now, units }) => [...(now ? [now] : []), ...units])
      .flatMap(({ films }) => films),
  ].flatMap((film) => (film.token === null ? [] : [{ ...film, token: film.token }]));

/** The film that is on now: the last that was put up of what can be watched; undefined where there is none. */
export const filmOnNow = (shelf: Shelf) =>
  openFilms(shelf).sort((a, b) => Date.parse(b.upAt) - Date.parse(a.upAt))[0];

/** What is on a page of films: what they may watch now, and what they may before long. */
export const shelfFor = async (
  {
    accounts,
    classes,
    classPages,
    grants,
    submissions,
    handOuts,
    lessons,
    studentPages,
    log,
  }: Parts,
  visitor: Visitor,
): Promise<Shelf> => {
  const student = visitor.is === 'student' ? visitor : null;
  const classIds = visitor.is === 'student' ? visitor.classIds : [visitor.classId];
  const all = await handOuts.onPage(student?.studentId ?? null, classIds);
  const ofLesson = new Map(
    (
      await lessons.list(
        (id, error) => log.error(`lesson ${id} can't be read`, error),
        all.map(({ lesson_id }) => lesson_id),
      )
    ).map((row) => [row.id, row]),
  );
  const granted = await grants.of(all.map(({ id }) => id));
  const opened = student && (await grants.openedBy(student.studentId));
  const handed = student && (await submissions.handOutsOf(student.studentId));
  const now = Date.now();
  const shown = all.flatMap((handOut) => {
    const theirs = granted.get(handOut.id)!;
    const { is, when } = mayWatch(askingOf(visitor), availabilityOf(handOut, theirs), now);
    return is === 'open' || is === 'not-yet' ? [{ handOut, grants: theirs, is, when }] : [];
  });
  const open = shown.filter(({ is }) => is === 'open').map(({ handOut }) => handOut.id);
  const tokens = await (visitor.is === 'student'
    ? studentPages.passes(visitor, open)
    : classPages.passes(visitor, open));
  const tokenOf = new Map(open.map((id, index) => [id, tokens[index]!]));
  const films = shown.map(({ handOut, grants: theirs, is, when }) => {
    const opensAt = is === 'not-yet' ? when : null;
    const activity = activityOf(handOut);
    const upAt = [handOut.created_at, handOut.from_at ?? '', opensAt ?? ''].sort().at(-1)!;
    return {
      lessonId: handOut.lesson_id,
      className: ofLesson.get(handOut.lesson_id)?.className ?? '',
      unit: ofLesson.get(handOut.lesson_id)?.unit ?? '',
      classIds: theirs.flatMap(({ whom }) => (whom.is === 'class' ? [whom.classId] : [])),
      upAt,
      open: is === 'open',
      film: {
        ...{
          token: tokenOf.get(handOut.id) ?? null,
          title: handOut.title ?? ofLesson.get(handOut.lesson_id)?.title ?? '',
          filmUs: handOut.film_us,
        },
        ...{ opensAt, upAt },
        untilAt: is === 'open' ? when : null,
        opened: opened && opened.has(handOut.id),
        todo: activity && {
          ...{ dueAt: activity.dueAt, handsIn: activity.by.length > 0 },
          done: handed && handed.has(handOut.id),
        },
      } satisfies ShelfFilm,
    };
  });
  const shelf = shelfOf(await classes.withIds(classIds), films);
  const unitOf = (unit: { name: string; films: readonly { film: ShelfFilm }[] }) => ({
    name: unit.name,
    films: unit.films.map(({ film }) => film),
  });
  return {
    ...{ of: visitor.is, name: visitor.name, teacherName: await accounts.teacherName() },
    classes: shelf.classes.map((one) => ({
      name: one.name,
      now: one.now && unitOf(one.now),
      units: one.units.map(unitOf),
    })),
    own: shelf.own.map(({ film }) => film),
  };
};
