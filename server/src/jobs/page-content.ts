import { pageContentOf } from '@under-chalk/core/class/page-content';
import type { PageContent, PageFilm } from '@under-chalk/core/contract/student-pages';
import { mayWatch } from '@under-chalk/core/share-link/may-watch';
import type { Parts } from '../http/context';
import { assignmentOf } from '../store/share-link-store';
import { availabilityOf } from '../store/availability';
import { askingOf, type Visitor } from '../store/token-finder';

/** Films on a page that can be watched now. */
export const openFilms = ({ classes, own }: Pick<PageContent, 'classes' | 'own'>) =>
  [
    ...own,
    ...classes
      .flatMap(({ now, units }) => [...(now ? [now] : []), ...units])
      .flatMap(({ films }) => films),
  ].flatMap((film) => (film.token === null ? [] : [{ ...film, token: film.token }]));

/** The film that is on now: the last that was put up of what can be watched; undefined where there is none. */
export const filmOnNow = (pageContent: PageContent) =>
  openFilms(pageContent).sort((a, b) => Date.parse(b.upAt) - Date.parse(a.upAt))[0];

/** What is on a page of films: what they may watch now, and what they may before long. */
export const pageContentFor = async (
  {
    accounts,
    classes,
    classPages,
    grants,
    submissions,
    shareLinks,
    lessons,
    studentPages,
    log,
  }: Parts,
  visitor: Visitor,
): Promise<PageContent> => {
  const student = visitor.is === 'student' ? visitor : null;
  const classIds = visitor.is === 'student' ? visitor.classIds : [visitor.classId];
  const all = await shareLinks.onPage(student?.studentId ?? null, classIds);
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
  const handed = student && (await submissions.shareLinksOf(student.studentId));
  const now = Date.now();
  const shown = all.flatMap((shareLink) => {
    const theirs = granted.get(shareLink.id)!;
    const { is, when } = mayWatch(askingOf(visitor), availabilityOf(shareLink, theirs), now);
    return is === 'open' || is === 'not-yet' ? [{ shareLink, grants: theirs, is, when }] : [];
  });
  const open = shown.filter(({ is }) => is === 'open').map(({ shareLink }) => shareLink.id);
  const tokens = await (visitor.is === 'student'
    ? studentPages.passes(visitor, open)
    : classPages.passes(visitor, open));
  const tokenOf = new Map(open.map((id, index) => [id, tokens[index]!]));
  const films = shown.map(({ shareLink, grants: theirs, is, when }) => {
    const opensAt = is === 'not-yet' ? when : null;
    const assignment = assignmentOf(shareLink);
    const upAt = [shareLink.created_at, shareLink.available_from ?? '', opensAt ?? '']
      .sort()
      .at(-1)!;
    return {
      lessonId: shareLink.lesson_id,
      className: ofLesson.get(shareLink.lesson_id)?.className ?? '',
      unit: ofLesson.get(shareLink.lesson_id)?.unit ?? '',
      classIds: theirs.flatMap(({ grantee }) => (grantee.is === 'class' ? [grantee.classId] : [])),
      upAt,
      open: is === 'open',
      film: {
        ...{
          token: tokenOf.get(shareLink.id) ?? null,
          title: shareLink.title ?? ofLesson.get(shareLink.lesson_id)?.title ?? '',
          filmUs: shareLink.film_us,
        },
        ...{ opensAt, upAt },
        availableUntil: is === 'open' ? when : null,
        opened: opened && opened.has(shareLink.id),
        todo: assignment && {
          ...{ dueAt: assignment.dueAt, handsIn: assignment.by.length > 0 },
          done: handed && handed.has(shareLink.id),
        },
      } satisfies PageFilm,
    };
  });
  const pageContent = pageContentOf(await classes.withIds(classIds), films);
  const unitOf = (unit: { name: string; films: readonly { film: PageFilm }[] }) => ({
    name: unit.name,
    films: unit.films.map(({ film }) => film),
  });
  return {
    ...{ of: visitor.is, name: visitor.name, teacherName: await accounts.teacherName() },
    classes: pageContent.classes.map((one) => ({
      name: one.name,
      now: one.now && unitOf(one.now),
      units: one.units.map(unitOf),
    })),
    own: pageContent.own.map(({ film }) => film),
  };
};
