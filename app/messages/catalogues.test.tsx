import { parse, TYPE, type MessageFormatElement } from '@formatjs/icu-messageformat-parser';
import { render } from '@testing-library/react';
import { IntlProvider } from 'react-intl';
import { ERRORS } from '@under-chalk/core/errors/errors';
import {
  languageFrom,
  LANGUAGES,
  localeFor,
  type Language,
} from '@under-chalk/core/text/student-languages';
import { messages as de } from './de';
import { messages as en } from './en';
import { messages as es } from './es';
import { teacherMessages } from './en/teacher';
import { messages as fr } from './fr';
import { useText, type Text } from './use-text';

const CATALOGUES: Record<Language, Readonly<Record<string, string>>> = { en, de, fr, es };
const languages = Object.keys(LANGUAGES) as Language[];
const others = languages.filter((language) => language !== 'en');

/** The arguments of a message, in each of its branches. */
const argumentsOf = (elements: readonly MessageFormatElement[]): string[] =>
  elements.flatMap((element) => {
    if (element.type === TYPE.literal || element.type === TYPE.pound) return [];
    const inside =
      element.type === TYPE.plural || element.type === TYPE.select
        ? Object.values(element.options).flatMap(({ value }) => argumentsOf(value))
        : [];
    return [element.value, ...inside];
  });

/** What a page in a language is given. */
const textIn = (language: Language, locale = localeFor(language, [])): Text => {
  const messages = CATALOGUES[language];
  let text: Text | null = null;
  const Reader = () => {
    text = useText();
    return null;
  };
  render(
    <IntlProvider locale={locale} messages={messages} timeZone="UTC">
      <Reader />
    </IntlProvider>,
  );
  return text!;
};

it.each(others)('has every message in %s, with the same arguments', (language) => {
  const english = CATALOGUES.en;
  const translated = CATALOGUES[language];
  expect(Object.keys(translated).sort()).toEqual(Object.keys(english).sort());
  for (const [id, text] of Object.entries(translated)) {
    const wanted = [...new Set(argumentsOf(parse(english[id]!)))].sort();
    expect([id, [...new Set(argumentsOf(parse(text)))].sort()]).toEqual([id, wanted]);
  }
});

it.each(others)('leaves no sentence in English in %s', (language) => {
  const english = CATALOGUES.en;
  const translated = CATALOGUES[language];
  const same = Object.keys(english).filter(
    (id) => / [a-z]{3,} /.test(english[id]!) && english[id] === translated[id],
  );
  expect(same.filter((id) => !id.startsWith('common.progress'))).toEqual([]);
});

it('can parse each message of the teacher’s pages', () => {
  for (const [id, text] of Object.entries(teacherMessages)) {
    expect([id, parse(text).length > 0]).toEqual([id, true]);
  }
});

it('has words for errors that exist', () => {
  const codes = Object.keys(CATALOGUES.en)
    .filter((id) => id.startsWith('errors.'))
    .map((id) => id.split('.')[1]!);
  const known = [...Object.keys(ERRORS), 'film-not-found'];
  expect([...new Set(codes)].filter((code) => !known.includes(code))).toEqual([]);
});

it('chooses the first language that it has', () => {
  expect(languageFrom(['nl-NL', 'fr-CA', 'de'])).toBe('fr');
  expect(languageFrom(['DE'])).toBe('de');
  expect(languageFrom(['cy', 'toString'])).toBe('en');
  expect(localeFor('de', ['en-US', 'de-AT'])).toBe('de-AT');
  expect(localeFor('en', ['fr-FR'])).toBe('en-GB');
});

it('writes dates, lengths and sizes as the language does', () => {
  const at = '2026-11-30T08:05:00Z';
  const told = (language: Language) => {
    const { when, length, size } = textIn(language);
    return [when(at), length(3_725_000_000), length(65_000_000), size(12_345_678)];
  };
  expect(told('en')).toEqual([
    'Monday 30 November at 08:05',
    '1 hr 2 mins',
    '1 min 5 secs',
    '12.3 MB',
  ]);
  expect(told('de')).toEqual([
    'Montag, 30. November um 08:05',
    '1 Std., 2 Min.',
    '1 Min., 5 Sek.',
    '12,3 MB',
  ]);
  expect(told('fr')[0]).toBe('lundi 30 novembre à 08:05');
  expect(told('es')[0]).toBe('lunes, 30 de noviembre, 08:05');
});

it('explains errors that students do not meet as unexpected', () => {
  const { problem, t } = textIn('de');
  expect(problem('wrong-pin').message).toBe('Die PIN ist falsch.');
  expect(problem('port-in-use').message).toBe('Etwas ist schiefgegangen.');
  expect(problem('nobody knows this').message).toBe('Etwas ist schiefgegangen.');
  expect(t('watch.downloadPages', { pages: 1 })).toBe('Seite herunterladen (PDF)');
  expect(t('watch.downloadPages', { pages: 3 })).toBe('3 Seiten herunterladen (PDF)');
});
