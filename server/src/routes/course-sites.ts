import { AppError } from '@under-chalk/core/errors/errors';
import type { JoinedSite } from '@under-chalk/core/contract/course-sites';
import { TOOL_PATHS } from '@under-chalk/core/course-site/site';
import { originOf } from '../http/security';
import { bringIn } from '../course-sites/arrivals';
import { rosterOf } from '../course-sites/rosters';
import type { Parts } from '../http/context';
import type { On } from '../http/route';

/** Course sites that Under Chalk is joined with, and of which class those are who come from their courses. */
export const courseSiteRoutes = (on: On, parts: Parts): void => {
  const { sites, registrations, siteScores, scoreGiver, toolKeys, classes, tokens } = parts;

  const all = async (): Promise<JoinedSite[]> =>
    Promise.all(
      (await sites.all()).map(async (site) => ({
        ...site,
        scores: await siteScores.sums(site.id),
        newcomers: await classes.newcomers(site.id),
        courses: (await sites.courses(site.id)).map((course) => ({
          ...{ courseId: course.course_id, title: course.title, classId: course.class_id },
          hasRoster: course.roster_address !== null,
        })),
      })),
    );

  on('courseSites', all);

  on('setCourseSite', async ({ body }) => {
    await sites.set(body);
    return all();
  });

  on('startRegistration', ({ ctx }) => {
    const { ticket, until } = registrations.ticket();
    const address = `${originOf(parts.config.front, ctx)}${TOOL_PATHS.register}/${ticket}`;
    return Promise.resolve({ address, until });
  });

  on('removeCourseSite', async ({ params }) => {
    await sites.remove(params.siteId);
    return all();
  });

  on('setSiteCourse', async ({ params, body }) => {
    await sites.setClass(params.siteId, body.courseId, body.classId);
    return all();
  });

  on('resolveNewcomer', async ({ params, body }) => {
    await classes.ingestNewcomer(params.siteId, params.studentId, body.same);
    tokens.forget();
    return all();
  });

  on('resendScores', async ({ params }) => {
    await siteScores.tryAgain((await sites.get(params.siteId)).id);
    scoreGiver.begin();
    return { ok: true as const };
  });

  on('syncRoster', async ({ params, body }) => {
    const site = await sites.get(params.siteId);
    const course = await sites.course(site.id, body.courseId);
    if (course.class_id === null) throw new AppError('course-without-class', body.courseId);
    if (course.roster_address === null) throw new AppError('site-unreachable', 'no roster');
    const people = await rosterOf(site, course.roster_address, toolKeys);
    const before = (await classes.view(course.class_id)).students.length;
    await bringIn(parts, site.id, course.class_id, people, true);
    tokens.forget();
    const after = (await classes.view(course.class_id)).students.length;
    return { ok: true as const, people: people.length, added: after - before };
  });
};
