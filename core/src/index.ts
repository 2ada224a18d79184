/** The core is imported by subject: `@under-chalk/core/film/film`, `@under-chalk/core/edit/edit`, … */
export type { Lesson } from './lesson/lesson';
