import type { Language } from '@under-chalk/core/text/student-languages';

/** Messages by id. The bundlers replace each text by its parsed form (`scripts/lib/messages.mjs`). */
export type Catalogue = Readonly<Record<string, string>>;

const CATALOGUES: Record<Language, () => Promise<{ messages: Catalogue }>> = {
  en: () => import('./en'),
  de: () => import('./de'),
  fr: () => import('./fr'),
  es: () => import('./es'),
};

/** Fetches the messages of a language; each is a file of its own. @throws the browser's error when it can't be fetched */
export const loadCatalogue = async (language: Language): Promise<Catalogue> =>
  (await CATALOGUES[language]()).messages;
