import { useMemo } from 'react';
import { useIntl, type FormatDateOptions, type IntlShape } from 'react-intl';
import { lengthIn } from '@under-chalk/core/text/length';
import type { Us } from '@under-chalk/core/time/us';
import type { messages } from './en';

export type MessageId = keyof typeof messages;
type Values = Readonly<Record<string, string | number>>;

export interface Text {
  /** A message of the catalogue, in the reader's language. */
  readonly t: (id: MessageId, values?: Values) => string;
  /** What an error's code means, and what to do. */
  readonly problem: (code: string) => { readonly message: string; readonly hint: string };
  /** Day and time in the reader's time zone, as `Monday 30 November at 08:00`. @param iso ISO 8601 */
  readonly when: (iso: string) => string;
  /** A length of time, as `4 min, 5 sec`. Rounds down, as a clock does. */
  readonly length: (us: Us) => string;
  /** The size of a file, as `12 MB`. */
  readonly size: (bytes: number) => string;
}

const WHEN: FormatDateOptions = {
  ...{ weekday: 'long', day: 'numeric', month: 'long' },
  ...{ hour: '2-digit', minute: '2-digit' },
};

const sizeIn = (intl: IntlShape, bytes: number): string =>
  bytes < 1e6
    ? intl.formatNumber(Math.max(1, Math.round(bytes / 1e3)), { style: 'unit', unit: 'kilobyte' })
    : intl.formatNumber(bytes / 1e6, {
        ...{ style: 'unit', unit: 'megabyte', maximumFractionDigits: 1 },
      });

const textIn = (intl: IntlShape): Text => {
  const t = (id: MessageId, values?: Values) => intl.formatMessage({ id }, values);
  return {
    t,
    problem: (code) => {
      const known = `errors.${code}.message` in intl.messages ? code : 'unexpected';
      const id = `errors.${known}` as 'errors.unexpected';
      return { message: t(`${id}.message`), hint: t(`${id}.hint`) };
    },
    when: (iso) => intl.formatDate(iso, WHEN),
    length: (us) => lengthIn(intl.locale, us),
    size: (bytes) => sizeIn(intl, bytes),
  };
};

/** Text and formats of the language that the page is shown in. */
export const useText = (): Text => {
  const intl = useIntl();
  return useMemo(() => textIn(intl), [intl]);
};
