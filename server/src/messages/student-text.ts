import { createIntl, createIntlCache } from '@formatjs/intl';
import { errorText } from '@under-chalk/core/errors/errors';
import deErrors from '@under-chalk/core/messages/de/errors.json';
import enErrors from '@under-chalk/core/messages/en/errors.json';
import esErrors from '@under-chalk/core/messages/es/errors.json';
import frErrors from '@under-chalk/core/messages/fr/errors.json';
import type { PageLabels } from '@under-chalk/core/out/film-page';
import { lengthIn } from '@under-chalk/core/text/length';
import { languageFrom, localeFor, type Language } from '@under-chalk/core/text/student-languages';
import type { Us } from '@under-chalk/core/time/us';
import de from './de/student.json';
import en from './en/student.json';
import es from './es/student.json';
import fr from './fr/student.json';

export type MessageId = keyof typeof en;

const CATALOGUES: Readonly<Record<Language, Readonly<Record<string, string>>>> = {
  en: { ...enErrors, ...en },
  de: { ...deErrors, ...de },
  fr: { ...frErrors, ...fr },
  es: { ...esErrors, ...es },
};

/** What the server writes for students, in one of their languages. */
export interface StudentText {
  readonly language: Language;
  readonly t: (id: MessageId, values?: Readonly<Record<string, string | number>>) => string;
  /** What an error's code means, and what to do. In English where students don't meet it. */
  readonly problem: (code: string) => { readonly message: string; readonly hint: string };
  /** Day and time, as `Friday 4 December at 18:00 CET`. @param timeZone IANA; null: the server's */
  readonly when: (at: string | number, timeZone: string | null) => string;
  /** A length of time, as `4 mins 5 secs`. */
  readonly length: (us: Us) => string;
}

/** Labels of pages of films that leave the server. */
export const labelsOf = ({ t }: StudentText): PageLabels => ({
  chapters: t('page.chapters'),
  transcript: t('page.transcript'),
  transcriptIn: (language) => t('page.transcript-in', { language }),
  boardPages: t('page.board-pages'),
});

const cache = createIntlCache();

/** @param wanted the reader's languages (BCP 47), the first preferred: they decide the region of dates */
export const studentText = (language: Language, wanted: readonly string[] = []): StudentText => {
  const locale = localeFor(language, wanted);
  const messages = CATALOGUES[language];
  const intl = createIntl({ locale, messages }, cache);
  const message = (id: string, values = {}) => intl.formatMessage({ id }, values) as string;
  return {
    language,
    t: message,
    problem: (code) =>
      Object.hasOwn(messages, `errors.${code}.message`)
        ? { message: message(`errors.${code}.message`), hint: message(`errors.${code}.hint`) }
        : errorText(code),
    when: (at, timeZone) =>
      new Intl.DateTimeFormat(locale, {
        ...{ weekday: 'long', day: 'numeric', month: 'long', hour: '2-digit', minute: '2-digit' },
        ...{ timeZoneName: 'short', timeZone: timeZone ?? undefined },
      }).format(new Date(at)),
    length: (us) => lengthIn(locale, us),
  };
};

/** In the language that a browser asks for (Accept-Language, RFC 9110 12.5.4). */
export const textFor = (ctx: { acceptsLanguages: () => string[] }): StudentText => {
  const wanted = ctx.acceptsLanguages();
  return studentText(languageFrom(wanted), wanted);
};
