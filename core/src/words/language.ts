/** Languages that are offered by name; any other can be typed in as BCP 47 has it. */
export const OFFERED = [
  ...['en', 'cy', 'ga', 'de', 'nl', 'fr', 'es', 'pt', 'it', 'pl', 'cs', 'sk', 'hu', 'ro', 'el'],
  ...['sv', 'da', 'nb', 'fi', 'et', 'lv', 'lt', 'uk', 'ru', 'bg', 'tr', 'ar', 'fa', 'he', 'ur'],
  ...['hi', 'bn', 'ta', 'zh', 'ja', 'ko', 'vi', 'th', 'id', 'so', 'sw', 'am', 'ti'],
] as const;

/** The three letters that containers name a language by (ISO 639-2/T), for those that are offered. */
const THREE: Readonly<Record<string, string>> = {
  ...{ en: 'eng', cy: 'cym', ga: 'gle', de: 'deu', nl: 'nld', fr: 'fra', es: 'spa', pt: 'por' },
  ...{ it: 'ita', pl: 'pol', cs: 'ces', sk: 'slk', hu: 'hun', ro: 'ron', el: 'ell', sv: 'swe' },
  ...{ da: 'dan', nb: 'nob', fi: 'fin', et: 'est', lv: 'lav', lt: 'lit', uk: 'ukr', ru: 'rus' },
  ...{ bg: 'bul', tr: 'tur', ar: 'ara', fa: 'fas', he: 'heb', ur: 'urd', hi: 'hin', bn: 'ben' },
  ...{ ta: 'tam', zh: 'zho', ja: 'jpn', ko: 'kor', vi: 'vie', th: 'tha', id: 'ind', so: 'som' },
  ...{ sw: 'swa', am: 'amh', ti: 'tir' },
};

/** The language itself, without its region or script. */
export const baseOf = (language: string): string => language.split('-', 1)[0]!;

/** ISO 639-2/T; `und` where it isn't known. */
export const threeLettersOf = (language: string): string => {
  const base = baseOf(language);
  return THREE[base] ?? (base.length === 3 ? base : 'und');
};

/** A language's name, in English or in another, or in its own. */
export const languageName = (language: string, inLanguage: string = 'en'): string => {
  try {
    return new Intl.DisplayNames([inLanguage], { type: 'language' }).of(language) ?? language;
  } catch {
    return language;
  }
};

/** Whether a language is written from right to left (by the scripts of those that are offered). */
export const isRightToLeft = (language: string): boolean =>
  ['ar', 'fa', 'he', 'ur'].includes(baseOf(language));
