import type { Unit } from '@under-chalk/core/class/class';
import { ordered } from '@under-chalk/core/class/page-content';
import { AppError } from '@under-chalk/core/errors/errors';
import { mayWatch } from '@under-chalk/core/share-link/may-watch';
import type { Parts } from '../http/context';
import type { LinkOnPage } from '../store/share-link-store';
import { availabilityOf } from '../store/availability';

/** Something that is handed out to a class. */
export interface InUnit {
  readonly shareLink: LinkOnPage;
  readonly lessonId: string;
  /** The unit that its lesson names; empty: none. */
  readonly unit: string;
  readonly title: string;
  /** The class may watch it now; else it may before long. */
  readonly open: boolean;
}

/** @throws AppError `not-found` */
export const unitOf = async (
  { classes }: Parts,
  classId: string,
  unitId: string,
): Promise<{ readonly className: string; readonly unit: Unit }> => {
  const view = await classes.view(classId);
  const unit = view.units.find(({ id }) => id === unitId);
  if (!unit) throw new AppError('not-found', `unit ${unitId}`);
  return { className: view.name, unit };
};

/** What a class may watch now or before long, in the order in which it was put up. */
export const inClass = async (parts: Parts, classId: string): Promise<InUnit[]> => {
  const { grants, shareLinks, lessons, log } = parts;
  const all = await shareLinks.onPage(null, [classId]);
  const granted = await grants.of(all.map(({ id }) => id));
  const rows = await lessons.list(
    (id, error) => log.error(`lesson ${id} can't be read`, error),
    all.map(({ lesson_id }) => lesson_id),
  );
  const lessonOf = new Map(rows.map((row) => [row.id, row]));
  const asking = { is: 'class', classId } as const;
  const found = all.flatMap((shareLink): InUnit[] => {
    const lesson = lessonOf.get(shareLink.lesson_id);
    const { is } = mayWatch(
      asking,
      availabilityOf(shareLink, granted.get(shareLink.id)!),
      Date.now(),
    );
    if (!lesson || (is !== 'open' && is !== 'not-yet')) return [];
    const title = shareLink.title ?? lesson.title;
    return [{ shareLink, lessonId: lesson.id, unit: lesson.unit, title, open: is === 'open' }];
  });
  // The newest comes first in the list of them.
  return found.reverse();
};

/** What a class may watch of a unit now or before long, in the order in which it stands on its page. */
export const inUnit = async (parts: Parts, classId: string, unit: Unit): Promise<InUnit[]> =>
  ordered(
    (await inClass(parts, classId)).filter((one) => one.unit === unit.name),
    unit,
  );
