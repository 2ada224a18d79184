import * as z from 'zod';
import { readSetting, writeSetting } from '../../data/kept-setting';

/** Where this device was in films: the last ones, the one watched last at the end. */
const placesSchema = z.array(
  z.object({
    /** Names the film: the first part of its version. */
    of: z.string(),
    atS: z.number().nonnegative(),
  }),
);

const KEY = 'watched';
const MOST = 50;
/** So near to its beginning or its end nobody needs to be brought back, s. */
const EDGE_S = 10;

/** A link's token opens the film, and isn't left lying about: this names it as well. */
const nameOf = (token: string): string => token.slice(0, 8);

/** Where this device was in the film under a link; 0 where that was its beginning or its end. */
export const keptPlace = (token: string, filmS: number): number => {
  const kept = readSetting(KEY, placesSchema, []).find(({ of }) => of === nameOf(token));
  const atS = kept?.atS ?? 0;
  return atS < EDGE_S || atS > filmS - EDGE_S ? 0 : atS;
};

/** Keeps where this device is in a film. */
export const keepPlace = (token: string, atS: number): void => {
  const others = readSetting(KEY, placesSchema, []).filter(({ of }) => of !== nameOf(token));
  writeSetting(KEY, [...others.slice(-MOST + 1), { of: nameOf(token), atS: Math.round(atS) }]);
};
