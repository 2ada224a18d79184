import { generateKeyBetween } from 'fractional-indexing';
import * as z from 'zod';
import { idSchema, usSchema, type Id } from './take';

const isRank = (text: string): boolean => {
  try {
    generateKeyBetween(text, null);
    return true;
  } catch {
    return false;
  }
};

/**
 * Where something stands among others, as text whose order is that of its characters' codes. Between any two
 * there is always another, so that moving one changes no other.
 */
export const rankSchema = z.string().max(200).refine(isRank, { error: 'not a rank' });
export type Rank = z.infer<typeof rankSchema>;

/**
 * A place in the film that a take stands at. A take can stand at several; where its take was put by the
 * recorder, the place has the take's own id.
 */
export const placementSchema = z
  .object({ id: idSchema, takeId: idSchema, rank: rankSchema })
  .readonly();
export type Placement = z.infer<typeof placementSchema>;

/** The part that is kept at a place. `endUs` null: to the take's end. */
export const trimSchema = z
  .object({ placementId: idSchema, startUs: usSchema, endUs: usSchema.nullable() })
  .readonly();
export type Trim = z.infer<typeof trimSchema>;

/** What stands in the film: a place, and what is kept of its take there. */
export interface Placed extends Placement {
  readonly startUs: number;
  readonly endUs: number | null;
}

/** What the decisions say of places: each of the three is decided by itself, and none is lost by another. */
export interface Places {
  readonly placements: readonly Placement[];
  readonly excluded: readonly Id[];
  readonly trims: readonly Trim[];
}

const byRank = (a: Placement, b: Placement): number =>
  a.rank < b.rank ? -1 : a.rank > b.rank ? 1 : a.id < b.id ? -1 : 1;

/** Every place, whether it is in the film or left out, in order. */
export const everyPlaced = ({ placements, trims }: Omit<Places, 'excluded'>): Placed[] => {
  const trimOf = new Map(trims.map((trim) => [trim.placementId, trim]));
  return [...placements].sort(byRank).map((placement) => {
    const { startUs = 0, endUs = null } = trimOf.get(placement.id) ?? {};
    return { ...placement, startUs, endUs };
  });
};

/** What stands in the film, in order. */
export const placedOf = (places: Places): Placed[] => {
  const out = new Set(places.excluded);
  return everyPlaced(places).filter(({ id }) => !out.has(id));
};

/**
 * A rank between two; null: before all, or after all. Two that are equal (two tabs put something at the same
 * place at once) have none between: it then comes after both.
 */
export const rankBetween = (before: Rank | null, after: Rank | null): Rank =>
  before !== null && after !== null && before >= after
    ? generateKeyBetween(before, null)
    : generateKeyBetween(before, after);

/** The rank that puts something at a place among others, from 0; null: at the end. */
export const rankAt = (others: readonly Placement[], at: number | null): Rank => {
  const ranks = [...others].sort(byRank).map(({ rank }) => rank);
  const index = Math.min(at ?? ranks.length, ranks.length);
  const before = ranks[index - 1] ?? null;
  // Past those of the same rank: there is no room between equals.
  const after = ranks.slice(index).find((rank) => before === null || rank > before) ?? null;
  return rankBetween(before, after);
};

/** A place moved to stand at a place among what stands in the film, from 0; null: at the end. */
export const movedTo = (
  { id, takeId }: Pick<Placement, 'id' | 'takeId'>,
  film: readonly Placement[],
  at: number | null,
): Placement => ({
  id,
  takeId,
  rank: rankAt(
    film.filter((placed) => placed.id !== id),
    at,
  ),
});

/** Takes as they stand in a film of their own, whole and one after another. */
export const wholeTakes = (takeIds: readonly Id[]): Places => ({
  placements: takeIds.reduce<Placement[]>(
    (before, takeId) => [...before, movedTo({ id: takeId, takeId }, before, null)],
    [],
  ),
  excluded: [],
  trims: [],
});
