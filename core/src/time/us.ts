/** A time or a length of time in whole microseconds, as in WebCodecs. */
export type Us = number;

export const US_PER_SECOND = 1_000_000;
export const US_PER_MS = 1_000;

/** Seconds (may be fractional) → whole µs. */
export const fromSeconds = (seconds: number): Us => Math.round(seconds * US_PER_SECOND);

/** µs → seconds, as a fraction. */
export const toSeconds = (us: Us): number => us / US_PER_SECOND;

/** µs → seconds as decimal text with six places, the form ffmpeg takes for a time. */
export const toSecondsText = (us: Us): string => {
  const whole = Math.round(us);
  const sign = whole < 0 ? '-' : '';
  const abs = Math.abs(whole);
  return `${sign}${Math.floor(abs / US_PER_SECOND)}.${String(abs % US_PER_SECOND).padStart(6, '0')}`;
};

/** µs → `m:ss`, or `h:mm:ss` from an hour on. Rounds down, as a clock does; negative reads as zero. */
export const formatClock = (us: Us): string => {
  const total = Math.max(0, Math.floor(us / US_PER_SECOND));
  const hours = Math.floor(total / 3600);
  const minutes = Math.floor((total % 3600) / 60);
  const seconds = String(total % 60).padStart(2, '0');
  return hours > 0
    ? `${hours}:${String(minutes).padStart(2, '0')}:${seconds}`
    : `${minutes}:${seconds}`;
};

/** µs → `m:ss.t`, tenths for fine work. */
export const formatTenths = (us: Us): string => {
  const tenths = Math.max(0, Math.floor(us / 100_000));
  return `${formatClock(Math.floor(tenths / 10) * US_PER_SECOND)}.${tenths % 10}`;
};

/**
 * A time as it is typed: `1:02.5`, `0:07`, `12.5` or `1:02:03` → µs; null when it is none. A comma does for the point.
 */
export const parseClock = (text: string): Us | null => {
  const read = /^(?:(?:(\d{1,2}):)?(\d{1,3}):)?(\d{1,5}(?:[.,]\d{1,6})?)$/.exec(text.trim());
  if (!read) return null;
  const [, hours = '0', minutes = '0', seconds = '0'] = read;
  const whole = Number(hours) * 3600 + Number(minutes) * 60 + Number(seconds.replace(',', '.'));
  return fromSeconds(whole);
};

/** µs → words for a screen reader and for sentences: `4 min 5 s`, `12 s`, `1 h 2 min`. Rounds down, as the clock does. */
export const formatSpoken = (us: Us): string => {
  const total = Math.max(0, Math.floor(us / US_PER_SECOND));
  const hours = Math.floor(total / 3600);
  const minutes = Math.floor((total % 3600) / 60);
  const seconds = total % 60;
  if (hours > 0) return minutes > 0 ? `${hours} h ${minutes} min` : `${hours} h`;
  if (minutes > 0) return seconds > 0 ? `${minutes} min ${seconds} s` : `${minutes} min`;
  return `${seconds} s`;
};
