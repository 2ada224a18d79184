import { calledName } from './material';

/** A page as words name it. */
export interface NamedPage {
  /** Of the material. */
  readonly id: string;
  /** From 0. */
  readonly page: number;
}

interface Named {
  readonly id: string;
  readonly name: string;
}

/** Simple case folding: names are compared as they are read. */
const folded = (text: string): string => text.normalize('NFC').toLocaleLowerCase().trim();

const PAGE = /^[\s,;:·#–-]*(?:(?:page|p\.|slide)\s*)?(\d{1,4})?$/i;

/** A page of a material, in words that {@link namedPage} reads. @param page from 0 */
export const pageInWords = (name: string, page: number): string =>
  `${calledName(name)}, page ${page + 1}`;

/**
 * The page that words name: what a material is called (with or without its ending), and after it perhaps a number
 * of a page, counted from 1. Null where they name none.
 */
export const namedPage = (words: string, materials: readonly Named[]): NamedPage | null => {
  const said = folded(words);
  const found = materials
    .flatMap(({ id, name }) =>
      [...new Set([name, calledName(name)])].map((called) => ({ id, called: folded(called) })),
    )
    // The longest name that fits: one may begin as another does.
    .sort((a, b) => b.called.length - a.called.length)
    .flatMap(({ id, called }) => {
      const rest =
        called !== '' && said.startsWith(called) ? PAGE.exec(said.slice(called.length)) : null;
      return rest ? [{ id, page: Math.max(0, Number(rest[1] ?? 1) - 1) }] : [];
    });
  return found[0] ?? null;
};
