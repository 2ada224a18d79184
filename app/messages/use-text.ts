import { useMemo } from 'react';
import { useIntl, type FormatDateOptions, type IntlShape } from 'react-intl';
import { US_PER_SECOND, type Us } from '@under-chalk/core/time/us';
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

const lengthIn = (intl: IntlShape, us: Us): string => {
  const total = Math.max(0, Math.floor(us / US_PER_SECOND));
  const [hours, minutes, seconds] = [
    Math.floor(total / 3600),
    Math.floor(total / 60) % 60,
    total % 60,
  ];
  const parts = [
    { value: hours, unit: 'hour' },
    { value: minutes, unit: 'minute' },
    // Beside hours nobody counts seconds.
    { value: hours > 0 ? 0 : seconds, unit: 'second' },
  ]
    .filter(({ value, unit }) => value > 0 || (total === 0 && unit === 'second'))
    .map(({ value, unit }) =>
      intl.formatNumber(value, { style: 'unit', unit, unitDisplay: 'short' }),
    );
  return intl.formatList(parts, { type: 'unit', style: 'narrow' });
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
    length: (us) => lengthIn(intl, us),
    size: (bytes) => sizeIn(intl, bytes),
  };
};

/** Text and formats of the language that the page is shown in. */
export const useText = (): Text => {
  const intl = useIntl();
  return useMemo(() => textIn(intl), [intl]);
};
