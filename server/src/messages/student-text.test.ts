import { parse, TYPE, type MessageFormatElement } from '@formatjs/icu-messageformat-parser';
import { ERRORS } from '@under-chalk/core/errors/errors';
import { LANGUAGES, type Language } from '@under-chalk/core/text/student-languages';
import de from './de/student.json';
import en from './en/student.json';
import es from './es/student.json';
import fr from './fr/student.json';
import { studentText, textFor } from './student-text';

const CATALOGUES: Record<Language, Readonly<Record<string, string>>> = { en, de, fr, es };
const others = (Object.keys(LANGUAGES) as Language[]).filter((language) => language !== 'en');

const argumentsOf = (elements: readonly MessageFormatElement[]): string[] =>
  elements.flatMap((element) =>
    element.type === TYPE.literal || element.type === TYPE.pound ? [] : [element.value],
  );

it.each(others)(
  'has every message in %s, with the same arguments, and none in English',
  (language) => {
    const translated = CATALOGUES[language];
    expect(Object.keys(translated).sort()).toEqual(Object.keys(en).sort());
    for (const [id, english] of Object.entries(en)) {
      const wanted = argumentsOf(parse(english)).sort();
      expect([id, argumentsOf(parse(translated[id]!)).sort()]).toEqual([id, wanted]);
      if (/ [a-z]{3,} /.test(english)) expect([id, translated[id]]).not.toEqual([id, english]);
    }
  },
);

it('has words for errors that exist', () => {
  const codes = Object.keys(en)
    .filter((id) => id.startsWith('errors.'))
    .map((id) => id.split('.')[1]!);
  expect(codes.filter((code) => !Object.hasOwn(ERRORS, code))).toEqual([]);
});

it('takes the language that a browser asks for, and its region for dates', () => {
  const asked = (...wanted: string[]) => textFor({ acceptsLanguages: () => wanted });
  expect(asked('nl', 'de-AT', 'en').language).toBe('de');
  expect(asked('*').language).toBe('en');
  const at = '2026-12-04T17:00:00Z';
  expect(asked('de-AT').when(at, 'Europe/Vienna')).toMatch(/^Freitag, 4\. Dezember um 18:00/);
  expect(asked('en-US').when(at, 'America/New_York')).toMatch(/^Friday, December 4 at 12:00 PM/);
  expect(studentText('en').when(at, 'Europe/London')).toMatch(/^Friday 4 December at 17:00/);
});

it('says errors that students don’t meet in English', () => {
  expect(studentText('fr').problem('port-in-use').message).toBe(ERRORS['port-in-use'].message);
  expect(studentText('fr').problem('no-page').message).toBe('Cette page n’existe plus.');
});
