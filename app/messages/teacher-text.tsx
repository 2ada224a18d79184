import type { ReactNode } from 'react';
import { IntlProvider } from 'react-intl';
import { ERRORS } from '@under-chalk/core/errors/errors';
import { teacherMessages } from './en/teacher';
import type { Catalogue } from './load';

/** The table of errors as messages. They have no arguments, and are shown as they are. */
const errors = Object.fromEntries(
  Object.entries(ERRORS).flatMap(([code, { message, hint }]) => [
    [`errors.${code}.message`, message],
    [`errors.${code}.hint`, hint],
  ]),
);
const MESSAGES: Catalogue = { ...teacherMessages, ...errors };

/** The teacher's pages are in English. */
export const TeacherText = ({ children }: { children: ReactNode }) => (
  <IntlProvider locale="en-GB" messages={MESSAGES}>
    {children}
  </IntlProvider>
);
