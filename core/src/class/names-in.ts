import { folded, type NewStudent } from './class';

/** Letters and signs of a text, words apart by one space. */
const plain = (text: string): string => ` ${folded(text).replaceAll(/[^\p{L}\p{N}@.]+/gu, ' ')} `;

/**
 * What names a student, to be looked for in many texts: their whole name, in any case and accent, or their address. A given
 * name alone names nobody.
 */
export const termsOf = ({ name, address }: NewStudent): string[] => {
  const whole = plain(name);
  return [
    ...(whole.trim().includes(' ') ? [whole.replaceAll('.', ' ')] : []),
    ...(address ? [plain(address).trim()] : []),
  ];
};

/** A text that many students are looked for in. */
export class TextWithNames {
  readonly #text: string;
  readonly #withoutDots: string;

  constructor(text: string) {
    this.#text = plain(text);
    this.#withoutDots = this.#text.replaceAll('.', ' ');
  }

  /** @param terms of one student ({@link termsOf}) */
  hasAny(terms: readonly string[]): boolean {
    return terms.some((term) => this.#text.includes(term) || this.#withoutDots.includes(term));
  }
}

/** Words as they are written. */
const wordsOf = (text: string): string[] => text.match(/[\p{L}\p{M}\p{N}’'-]+/gu) ?? [];

/**
 * Whose a title says a film is: those whom it names by their whole name or address, or by a given name that nobody else
 * among them has. A given name counts as it is written, and not as the first word: *May we pass?* is nobody's.
 */
export const studentsInTitle = <S extends NewStudent>(
  title: string,
  students: readonly S[],
): S[] => {
  const text = new TextWithNames(title);
  const whole = students.filter((student) => text.hasAny(termsOf(student)));
  if (whole.length > 0) return whole;
  const later = new Set(wordsOf(title).slice(1));
  const givenName = ({ name }: S) => wordsOf(name)[0] ?? '';
  const times = new Map<string, number>();
  for (const one of students) times.set(givenName(one), (times.get(givenName(one)) ?? 0) + 1);
  return students.filter((one) => {
    const given = givenName(one);
    // Of one letter it is an initial.
    return given.length > 1 && later.has(given) && times.get(given) === 1;
  });
};
