const IN_WORDS = new Intl.DateTimeFormat('en-GB', {
  ...{ weekday: 'long', day: 'numeric', month: 'long' },
  ...{ hour: '2-digit', minute: '2-digit' },
});

/** A moment where this device is, as `Monday 30 November at 08:00`. @param iso ISO 8601 */
export const dateTimeInWords = (iso: string): string => IN_WORDS.format(new Date(iso));

const two = (number: number) => String(number).padStart(2, '0');

/** A moment as a field for day and time has it (HTML, local date and time strings), where this device is. */
export const dateTimeToField = (iso: string | null): string => {
  if (iso === null) return '';
  const at = new Date(iso);
  const day = [at.getFullYear(), two(at.getMonth() + 1), two(at.getDate())].join('-');
  return `${day}T${two(at.getHours())}:${two(at.getMinutes())}`;
};

/** The other way round; null where nothing, or nothing whole, is written. */
export const dateTimeFromField = (value: string): string | null => {
  const at = new Date(value);
  return value === '' || Number.isNaN(at.getTime()) ? null : at.toISOString();
};
