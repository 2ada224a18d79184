import type { ReactNode } from 'react';
import { IntlProvider } from 'react-intl';
import common from './en/common.json';
import player from './en/player.json';

const MESSAGES = { ...common, ...player };

/** The teacher's pages are in English. */
export const TeacherText = ({ children }: { children: ReactNode }) => (
  <IntlProvider locale="en-GB" messages={MESSAGES}>
    {children}
  </IntlProvider>
);
