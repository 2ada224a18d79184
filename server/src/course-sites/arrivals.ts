import type { Launch } from '@under-chalk/core/course-site/launch';
import { isOfSite, type CourseSite } from '@under-chalk/core/course-site/site';
import { AppError } from '@under-chalk/core/errors/errors';
import type { ClassStore } from '../store/class-store';
import type { SiteStore, StoredCourse } from './site-store';

interface ArrivalParts {
  readonly sites: SiteStore;
  readonly classes: ClassStore;
}

/** The class of a course that somebody comes from. @throws AppError `launch-unfit`, `course-without-class` */
export const classOf = async (
  { sites }: Pick<ArrivalParts, 'sites'>,
  site: CourseSite,
  { course, roster }: Launch,
): Promise<{ readonly course: StoredCourse; readonly classId: string }> => {
  if (!course) throw new AppError('launch-unfit', 'no course is named');
  const seen = await sites.seen(site.id, course, roster && isOfSite(site, roster) ? roster : null);
  if (seen.class_id === null) throw new AppError('course-without-class', course.id);
  return { course: seen, classId: seen.class_id };
};

/**
 * Brings people of a course into its class, each once.
 *
 * @param byName by name too, where no address says otherwise: of a roster that the teacher asked for. Somebody who comes could call
 *   themselves by another's name.
 * @returns their students, by what the site knows them by
 * @throws AppError `not-found`, `too-many-students`
 */
export const bringIn = async (
  { classes }: Pick<ArrivalParts, 'classes'>,
  siteId: string,
  classId: string,
  people: readonly {
    readonly sub: string;
    readonly name: string;
    readonly address: string | null;
  }[],
  byName: boolean,
): Promise<Map<string, string>> => {
  const students = new Map<string, string>();
  for (const { sub, name, address } of people)
    students.set(
      sub,
      await classes.enrolFromSite(classId, { siteId, sub }, { name, address }, byName),
    );
  return students;
};

/**
 * The student that comes from a site.
 *
 * @throws AppError `name-not-told` for somebody that the site names nowhere
 */
export const studentFrom = async (
  parts: ArrivalParts,
  site: CourseSite,
  classId: string,
  { person }: Launch,
): Promise<string> => {
  const known = await parts.sites.studentOf(site.id, person.sub);
  if (known === null && person.name === '')
    throw new AppError('name-not-told', `somebody from ${site.id}`);
  const students = await bringIn(parts, site.id, classId, [person], false);
  return students.get(person.sub)!;
};
