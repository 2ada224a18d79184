import { parse } from '@formatjs/icu-messageformat-parser';
import { readFileSync } from 'node:fs';

/** The catalogues of messages, `app/messages/<language>/<feature>.json`. */
export const CATALOGUES = /[\\/]messages[\\/][a-z]{2}[\\/][a-z-]+\.json$/;

/** Reads a catalogue and parses its messages (ICU MessageFormat), so that no parser has to be sent to browsers. @throws SyntaxError */
export const parsedCatalogue = (path) =>
  JSON.stringify(
    Object.fromEntries(
      Object.entries(JSON.parse(readFileSync(path, 'utf8'))).map(([id, text]) => [
        id,
        parse(text, { captureLocation: false }),
      ]),
    ),
  );

export const PARSER = '@formatjs/icu-messageformat-parser';
export const NO_PARSER = `${PARSER}/no-parser.js`;
