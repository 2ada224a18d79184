import { shelfOf } from '@under-chalk/core/class/shelf';
import type { Shelf, ShelfFilm } from '@under-chalk/core/contract/student-pages';
import { TellableError } from '@under-chalk/core/errors/errors';
import { mayWatch } from '@under-chalk/core/hand-out/may-watch';
import type { Parts } from '../http/context';
import { Guesses } from '../http/guesses';
import { rememberNumber } from '../http/number-told';
import type { On } from '../http/route';
import { sameSecret } from '../store/account-store';
import type { Person } from '../store/student-page-store';
import { askingOf } from '../store/token-finder';

/** What is on a student's page: what they may watch now, and what they may before long. */
export const shelfFor = async (
  { accounts, classes, grants, handOuts, lessons, studentPages, log }: Parts,
  person: Person,
): Promise<Shelf> => {
  const { studentId, classIds, name } = person;
  const all = await handOuts.ofStudent(studentId, classIds);
  const ofLesson = new Map(
    (
      await lessons.list(
        (id, error) => log.error(`lesson ${id} can't be read`, error),
        all.map(({ lesson_id }) => lesson_id),
      )
    ).map((row) => [row.id, row]),
  );
  const granted = await grants.of(all.map(({ id }) => id));
  const opened = await grants.openedBy(studentId);
  const now = Date.now();
  const shown = all.flatMap((handOut) => {
    const { id, taken_back_at, from_at, until_at } = handOut;
    const theirs = granted.get(id)!;
    const times = { takenBackAt: taken_back_at, fromAt: from_at, untilAt: until_at };
    const { is, when } = mayWatch(askingOf(person), { ...times, grants: theirs }, now);
    return is === 'open' || is === 'not-yet' ? [{ handOut, grants: theirs, is, when }] : [];
  });
  const open = shown.filter(({ is }) => is === 'open').map(({ handOut }) => handOut.id);
  const tokens = await studentPages.passes(person, open);
  const tokenOf = new Map(open.map((id, index) => [id, tokens[index]!]));
  const films = shown.map(({ handOut, grants: theirs, is, when }) => ({
    className: ofLesson.get(handOut.lesson_id)?.className ?? '',
    unit: ofLesson.get(handOut.lesson_id)?.unit ?? '',
    classIds: theirs.flatMap(({ whom }) => (whom.is === 'class' ? [whom.classId] : [])),
    upAt: [handOut.created_at, handOut.from_at ?? '', is === 'not-yet' ? when! : ''].sort().at(-1)!,
    open: is === 'open',
    film: {
      ...{
        token: tokenOf.get(handOut.id) ?? null,
        title: handOut.title ?? ofLesson.get(handOut.lesson_id)?.title ?? '',
        filmUs: handOut.film_us,
      },
      opensAt: is === 'not-yet' ? when : null,
      untilAt: is === 'open' ? when : null,
      opened: opened.has(handOut.id),
    } satisfies ShelfFilm,
  }));
  const shelf = shelfOf(await classes.withIds(classIds), films);
  const unitOf = (unit: { name: string; films: readonly { film: ShelfFilm }[] }) => ({
    name: unit.name,
    films: unit.films.map(({ film }) => film),
  });
  return {
    ...{ name, teacherName: await accounts.teacherName() },
    classes: shelf.classes.map((one) => ({
      name: one.name,
      now: one.now && unitOf(one.now),
      units: one.units.map(unitOf),
    })),
    own: shelf.own.map(({ film }) => film),
  };
};

/** Students' own pages: for the teacher, and for the students. */
export const studentPageRoutes = (on: On, parts: Parts): void => {
  const { studentPages, tokens, config } = parts;
  const guesses = new Guesses();

  on('studentPages', ({ params }) => studentPages.pagesOf(params.classId));

  on('studentPage', ({ params }) => studentPages.page(params.studentId));

  on('renewPage', ({ params }) =>
    studentPages.renew(params.studentId).finally(() => tokens.forget()),
  );

  on('openPage', ({ params, body }) =>
    studentPages.setOpen(params.studentId, body.open).finally(() => tokens.forget()),
  );

  on('askNumber', ({ params, body }) =>
    studentPages.setNumber(params.studentId, body.asked).finally(() => tokens.forget()),
  );

  on('shelf', async ({ who, ctx }) => {
    ctx.set('Cache-Control', 'no-store');
    return shelfFor(parts, who.person);
  });

  on('giveNumber', async ({ params, body, ctx }) => {
    ctx.set('Cache-Control', 'no-store');
    const person = await studentPages.personWith(params.key);
    if (!person) throw new TellableError('no-page');
    const { number } = person;
    if (number) {
      // One line a page, whoever guesses: a million numbers are too few for many callers to share.
      await guesses.check(
        { address: `page ${person.pageHash}`, knownMark: null },
        () => Promise.resolve(number.digits !== null && sameSecret(body.number, number.digits)),
        'wrong-number',
      );
      rememberNumber(ctx, person, config.front);
    }
    return shelfFor(parts, person);
  });
};
