import * as z from 'zod';
import { courseSiteSchema } from '../course-site/site';
import { idSchema } from '../lesson/take';
import { define, ok } from './endpoint';

/** A course in a site that somebody has come from. */
export const siteCourseSchema = z.object({
  /** What the site calls it. */
  courseId: z.string().min(1).max(255),
  title: z.string(),
  /** The class that those who come from it are of; null: none was chosen yet. */
  classId: idSchema.nullable(),
  /** Its roster can be asked for. */
  hasRoster: z.boolean(),
});
export type SiteCourse = z.infer<typeof siteCourseSchema>;

const personSchema = z.object({
  studentId: idSchema,
  name: z.string(),
  address: z.string().nullable(),
  /** Names of the classes they are in. */
  classes: z.array(z.string()),
});

/** A new student from a course site, and an existing student who may be the same person. */
export const newcomerSchema = personSchema.extend({
  /** What they have in common. The newcomer may have made it up. */
  by: z.enum(['address', 'name']),
  other: personSchema,
});
export type Newcomer = z.infer<typeof newcomerSchema>;

export const joinedSiteSchema = courseSiteSchema.extend({
  /** Can't be read: nobody comes from it, and it can only be removed. What else is said of it stands for nothing. */
  damaged: z.boolean().default(false),
  courses: z.array(siteCourseSchema),
  /** Open questions: is this new student an existing one? */
  newcomers: z.array(newcomerSchema),
  /** How giving scores to it goes, counted by student and film. */
  scores: z.object({
    given: z.number().int(),
    /** Could not be given yet, and are tried again. */
    waiting: z.number().int(),
    /** The site won't have them. */
    refused: z.number().int(),
  }),
});
export type JoinedSite = z.infer<typeof joinedSiteSchema>;

const bySite = z.object({ siteId: idSchema });

export const COURSE_SITES = define({
  courseSites: {
    method: 'get',
    path: '/api/course-sites',
    summary: 'Course sites that Under Chalk is joined with (LTI 1.3), and the courses in them.',
    answer: z.array(joinedSiteSchema),
  },
  setCourseSite: {
    method: 'post',
    path: '/api/course-sites',
    summary: 'Join a course site, or change what is known of the one with its id.',
    body: courseSiteSchema,
    answer: z.array(joinedSiteSchema),
  },
  startRegistration: {
    method: 'post',
    path: '/api/course-sites/joining',
    summary: 'Make an address by which one course site may join by itself, within an hour.',
    answer: z.object({
      address: z.string(),
      /** ms since 1970 */
      until: z.number(),
    }),
  },
  removeCourseSite: {
    method: 'delete',
    path: '/api/course-sites/:siteId',
    summary: 'Part from a course site: nobody comes from it any more. Students and classes stay.',
    params: bySite,
    answer: z.array(joinedSiteSchema),
  },
  setSiteCourse: {
    method: 'post',
    path: '/api/course-sites/:siteId/courses',
    summary: 'Say of which class those are who come from a course; null: of none.',
    params: bySite,
    body: z.object({ courseId: siteCourseSchema.shape.courseId, classId: idSchema.nullable() }),
    answer: z.array(joinedSiteSchema),
  },
  resolveNewcomer: {
    method: 'post',
    path: '/api/course-sites/:siteId/newcomers/:studentId',
    summary:
      'Answer whether a new student from a course site is the same person as an existing one; if so, merge them.',
    params: bySite.extend({ studentId: idSchema }),
    body: z.object({ same: z.boolean() }),
    answer: z.array(joinedSiteSchema),
  },
  resendScores: {
    method: 'post',
    path: '/api/course-sites/:siteId/scores',
    summary: 'Give a site again, at once, the scores that it didn’t take.',
    params: bySite,
    answer: ok,
  },
  syncRoster: {
    method: 'post',
    path: '/api/course-sites/:siteId/roster',
    summary: 'Bring those who learn in a course into its class, by the site’s own roster.',
    params: bySite,
    body: z.object({ courseId: siteCourseSchema.shape.courseId }),
    answer: ok.extend({
      /** How many the roster has, and how many of them weren't in the class. */
      people: z.number().int(),
      added: z.number().int(),
    }),
  },
});
