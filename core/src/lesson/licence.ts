import * as z from 'zod';
import { cleanLine } from '../text/clean';

/** What others may do with a film: nothing without asking, or what one of the Creative Commons licences, version 4.0, says. */
const KNOWN = {
  'all-rights': { name: 'All rights reserved', short: 'All rights reserved', url: null },
  by: {
    name: 'Others may share and change it, saying whose it is',
    ...{ short: 'CC BY 4.0', url: 'https://creativecommons.org/licenses/by/4.0/' },
  },
  'by-sa': {
    name: 'The same; what they make of it has this licence too',
    ...{ short: 'CC BY-SA 4.0', url: 'https://creativecommons.org/licenses/by-sa/4.0/' },
  },
  'by-nc': {
    name: 'Others may share and change it, but not for money',
    ...{ short: 'CC BY-NC 4.0', url: 'https://creativecommons.org/licenses/by-nc/4.0/' },
  },
  'by-nc-sa': {
    name: 'Not for money; what they make of it has this licence too',
    ...{ short: 'CC BY-NC-SA 4.0', url: 'https://creativecommons.org/licenses/by-nc-sa/4.0/' },
  },
  'by-nd': {
    name: 'Others may share it as it is, saying whose it is',
    ...{ short: 'CC BY-ND 4.0', url: 'https://creativecommons.org/licenses/by-nd/4.0/' },
  },
  'by-nc-nd': {
    name: 'Others may share it as it is, but not for money',
    ...{ short: 'CC BY-NC-ND 4.0', url: 'https://creativecommons.org/licenses/by-nc-nd/4.0/' },
  },
  cc0: {
    name: 'Anybody may do anything with it',
    ...{ short: 'CC0 1.0', url: 'https://creativecommons.org/publicdomain/zero/1.0/' },
  },
} as const;
export type KnownLicence = keyof typeof KNOWN;
export const KNOWN_LICENCES = Object.keys(KNOWN) as KnownLicence[];

export const licenceSchema = z.union([
  z.object({ is: z.enum(KNOWN_LICENCES) }).readonly(),
  z
    .object({
      is: z.literal('own'),
      words: z.string().overwrite(cleanLine).trim().min(1).max(200),
    })
    .readonly(),
]);
export type Licence = z.infer<typeof licenceSchema>;

/** A licence as it is told: in a line, and where it can be read in full. */
export interface ToldLicence {
  readonly line: string;
  readonly url: string | null;
}
export const toldLicenceSchema = z.object({ line: z.string(), url: z.string().nullable() });

export const toldLicence = (licence: Licence): ToldLicence =>
  licence.is === 'own'
    ? { line: licence.words, url: null }
    : { line: KNOWN[licence.is].short, url: KNOWN[licence.is].url };

/** What a licence allows, in words. */
export const licenceName = (licence: KnownLicence): string => KNOWN[licence].name;
