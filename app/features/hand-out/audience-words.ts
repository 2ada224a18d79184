import type { ShareLink } from '@under-chalk/core/contract/share-links';
import { listed } from '@under-chalk/core/text/listed';
import { counted } from '../../ui/counted';

type Watchers = ShareLink['watchers'];

export const isForAnyone = (watchers: Watchers): boolean =>
  watchers.some(({ grantee }) => grantee.is === 'anyone');

/** So many students are named; more of them are counted. */
const NAMED = 3;

/** Who may watch, as it would be said: `anyone with the link`, `the class Coastal navigation and Bram Okafor`. */
export const audienceInWords = (watchers: Watchers): string => {
  const classes = watchers.filter(({ grantee }) => grantee.is === 'class');
  // Who has only a time of their own is in the class.
  const isNamed = ({ grantee, availableUntil }: Watchers[number]) =>
    grantee.is === 'student' && (availableUntil === null || classes.length === 0);
  const students = watchers.filter(isNamed);
  const parts = [
    ...(isForAnyone(watchers) ? ['anyone with the link'] : []),
    ...classes.map(({ name }) => `the class ${name}`),
    ...(students.length > NAMED
      ? [counted(students.length, 'student')]
      : students.map(({ name }) => name)),
  ];
  return listed(parts) || 'nobody any more';
};
