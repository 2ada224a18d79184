import { baseOf } from '@under-chalk/core/words/language';

/** Languages of students' pages (BCP 47), each by its own name. */
export const LANGUAGES = { en: 'English', de: 'Deutsch', fr: 'Français', es: 'Español' } as const;
export type Language = keyof typeof LANGUAGES;

// This is part of the first script of a student's page: it imports neither React nor Zod.
const SETTING = 'language';
const isLanguage = (text: string | null): text is Language =>
  text !== null && Object.hasOwn(LANGUAGES, text);

/** The first of the wanted languages that there is a catalogue for; English if there is none. */
export const languageFrom = (wanted: readonly string[]): Language =>
  wanted.map((one) => baseOf(one.toLowerCase())).find(isLanguage) ?? 'en';

const keptLanguage = (): Language | null => {
  try {
    const kept = localStorage.getItem(SETTING);
    return isLanguage(kept) ? kept : null;
  } catch {
    // Storage can be closed to us (a private window).
    return null;
  }
};

/** What the reader chose on this device, or what the browser prefers. */
export const preferredLanguage = (): Language =>
  keptLanguage() ?? languageFrom(navigator.languages);

export const keepLanguage = (language: Language): void => {
  try {
    localStorage.setItem(SETTING, language);
  } catch {
    // Not remembered; nothing else is lost.
  }
};

/** Formats of dates and numbers: those of the reader's region if it is known. English without a region is British. */
export const localeFor = (language: Language, wanted: readonly string[]): string =>
  wanted.find((one) => one.includes('-') && baseOf(one.toLowerCase()) === language) ??
  (language === 'en' ? 'en-GB' : language);
