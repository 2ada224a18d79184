import { isLanguage, languageFrom, type Language } from '@under-chalk/core/text/student-languages';

// This is part of the first script of a student's page: it imports neither React nor Zod.
const SETTING = 'language';

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
