import { useMemo } from 'react';
import { useIntl, type FormatDateOptions, type IntlShape } from 'react-intl';
import { lengthIn } from '@under-chalk/core/text/length';
import type { Us } from '@under-chalk/core/time/us';
import type { messages } from './en';
import type { teacherMessages } from './en/teacher';

/** A message of students' pages, or of what they share with the teacher's. */
export type MessageId = keyof typeof messages;
/** A message of the teacher's pages. */
export type TeacherMessageId = keyof typeof teacherMessages;
type Values = Readonly<Record<string, string | number>>;

export interface Text<Id extends string = MessageId> {
  /** A message of the catalogue, in the reader's language. */
  readonly t: (id: Id, values?: Values) => string;
  /** What an error's code means, and what to do. */
  readonly problem: (code: string) => { readonly message: string; readonly hint: string };
  /** Day and time in the reader's time zone, as `Monday 30 November at 08:00`. @param iso ISO 8601 */
  readonly when: (iso: string) => string;
  /** A day of this year, as `30 Nov`. @param iso ISO 8601 */
  readonly day: (iso: string) => string;
  /** A length of time, as `4 min, 5 sec`. Rounds down, as a clock does. */
  readonly length: (us: Us) => string;
  /** The size of a file, as `12 MB`. */
  readonly size: (bytes: number) => string;
}

const WHEN: FormatDateOptions = {
  ...{ weekday: 'long', day: 'numeric', month: 'long' },
  ...{ hour: '2-digit', minute: '2-digit' },
};

const sizeIn = (intl: IntlShape, bytes: number): string => {
  const inUnit = (value: number, unit: string) =>
    intl.formatNumber(value, { style: 'unit', unit, maximumFractionDigits: 1 });
  if (bytes === 0) return inUnit(0, 'kilobyte');
  if (bytes < 1e6) return inUnit(Math.max(1, Math.round(bytes / 1e3)), 'kilobyte');
  return bytes < 1e9 ? inUnit(bytes / 1e6, 'megabyte') : inUnit(bytes / 1e9, 'gigabyte');
};

const textIn = (intl: IntlShape): Text<string> => {
  const t = (id: string, values?: Values) => intl.formatMessage({ id }, values);
  return {
    t,
    problem: (code) => {
      const known = `errors.${code}.message` in intl.messages ? code : 'unexpected';
      const id = `errors.${known}`;
      return { message: t(`${id}.message`), hint: t(`${id}.hint`) };
    },
    when: (iso) => intl.formatDate(iso, WHEN),
    day: (iso) => intl.formatDate(iso, { day: 'numeric', month: 'short' }),
    length: (us) => lengthIn(intl.locale, us),
    size: (bytes) => sizeIn(intl, bytes),
  };
};

const useAnyText = (): Text<string> => {
  const intl = useIntl();
  return useMemo(() => textIn(intl), [intl]);
};

/** Text and formats of the language that the page is shown in. */
export const useText: () => Text = useAnyText;

/** The same for the teacher's pages, which have more messages. */
export const useTeacherText: () => Text<TeacherMessageId> = useAnyText;
