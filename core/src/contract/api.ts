import * as z from 'zod';
import { ANSWERS } from './answers';
import { WATCH_ANSWERS } from './watch-answers';
import { LAYOUTS } from './layouts';
import { LESSON_ARCHIVES } from './lesson-archives';
import { SAVED_STYLES } from './styles';
import { BIN } from './bin';
import { CLASSES } from './classes';
import { COURSE_SITES } from './course-sites';
import { STORAGE } from './storage';
import { define } from './endpoint';
import { FILMS } from './films';
import { SUBMISSIONS } from './submissions';
import { SHARE_LINKS } from './share-links';
import { LESSONS } from './lessons';
import { DESTINATIONS } from './destinations';
import { MAIL } from './mail';
import { MATERIALS } from './materials';
import { NOTES, WATCH_NOTES } from './notes';
import { SESSION } from './session';
import { WATCH_STREAM } from './stream';
import { STUDENT_PAGES } from './student-pages';
import { TAKES } from './takes';
import { WATCH } from './watch';
import { WATCH_SUBMISSIONS } from './watch-submissions';
import { WATCH_PLAYED, WATCHED } from './watched';
import { TRANSCRIPT_SEARCH } from './transcript-search';
import { WATCH_WORDS, WORDS } from './words';

/** All calls of the API, a file a resource. */
export const ENDPOINTS = {
  ...define({
    health: {
      method: 'get',
      path: '/api/health',
      summary: 'Whether the server is up.',
      answer: z.object({ ok: z.literal(true), version: z.string() }),
      from: 'anyone',
    },
  }),
  ...SESSION,
  ...LESSONS,
  ...DESTINATIONS,
  ...LAYOUTS,
  ...SAVED_STYLES,
  ...LESSON_ARCHIVES,
  ...TAKES,
  ...MATERIALS,
  ...FILMS,
  ...SHARE_LINKS,
  ...NOTES,
  ...WATCH,
  ...WATCH_STREAM,
  ...WATCH_NOTES,
  ...TRANSCRIPT_SEARCH,
  ...WORDS,
  ...WATCH_WORDS,
  ...BIN,
  ...STORAGE,
  ...CLASSES,
  ...COURSE_SITES,
  ...STUDENT_PAGES,
  ...MAIL,
  ...WATCHED,
  ...WATCH_PLAYED,
  ...ANSWERS,
  ...WATCH_ANSWERS,
  ...SUBMISSIONS,
  ...WATCH_SUBMISSIONS,
};

export type EndpointName = keyof typeof ENDPOINTS;
export type AnswerOf<N extends EndpointName> = (typeof ENDPOINTS)[N] extends {
  answer: infer A extends z.ZodType;
}
  ? z.infer<A>
  : never;
export type ParamsOf<N extends EndpointName> = (typeof ENDPOINTS)[N] extends {
  params: infer P extends z.ZodType;
}
  ? z.infer<P>
  : undefined;
export type BodyOf<N extends EndpointName> = (typeof ENDPOINTS)[N] extends {
  body: infer B extends z.ZodType;
}
  ? z.input<B>
  : undefined;

/** Fills in the parameters of a path; each is escaped. */
export const pathTo = <N extends EndpointName>(name: N, params?: ParamsOf<N>): string =>
  ENDPOINTS[name].path.replace(/:(\w+)/g, (_, key: string) => {
    const value = (params as Record<string, string> | undefined)?.[key];
    if (value === undefined) throw new TypeError(`${name} needs ${key}`);
    return encodeURIComponent(value);
  });
