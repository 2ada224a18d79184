import { US_PER_SECOND, type Us } from '../time/us';

/** A length of time as a language writes it, as `4 mins 5 secs`. Rounds down, as a clock does. @param locale BCP 47 */
export const lengthIn = (locale: string, us: Us): string => {
  const total = Math.max(0, Math.floor(us / US_PER_SECOND));
  const hours = Math.floor(total / 3600);
  const parts = [
    { value: hours, unit: 'hour' },
    { value: Math.floor(total / 60) % 60, unit: 'minute' },
    // Beside hours nobody counts seconds.
    { value: hours > 0 ? 0 : total % 60, unit: 'second' },
  ]
    .filter(({ value, unit }) => value > 0 || (total === 0 && unit === 'second'))
    .map(({ value, unit }) =>
      new Intl.NumberFormat(locale, { style: 'unit', unit, unitDisplay: 'short' }).format(value),
    );
  return new Intl.ListFormat(locale, { type: 'unit', style: 'narrow' }).format(parts);
};
