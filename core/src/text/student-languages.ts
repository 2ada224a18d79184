import { baseOf } from '../words/language';

/** Languages that students can read (BCP 47), each by its own name. */
export const LANGUAGES = { en: 'English', de: 'Deutsch', fr: 'Français', es: 'Español' } as const;
export type Language = keyof typeof LANGUAGES;

export const isLanguage = (text: string | null | undefined): text is Language =>
  typeof text === 'string' && Object.hasOwn(LANGUAGES, text);

/** The first of the wanted languages that there is a catalogue for; English if there is none. */
export const languageFrom = (wanted: readonly string[]): Language =>
  wanted.map((one) => baseOf(one.toLowerCase())).find(isLanguage) ?? 'en';

/** Formats of dates and numbers: those of the reader's region if it is known. English without a region is British. */
export const localeFor = (language: Language, wanted: readonly string[]): string =>
  wanted.find((one) => one.includes('-') && baseOf(one.toLowerCase()) === language) ??
  (language === 'en' ? 'en-GB' : language);
