import type { Edit } from '../edit/edit';
import { placedIn, takeOf, type Lesson } from '../lesson/lesson';
import { rankBetween, type Placed, type Rank } from '../lesson/placement';
import type { Id } from '../lesson/take';
import { frameToUs, nearestFrame } from '../time/frames';
import type { TimeRange } from '../time/ranges';
import type { Us } from '../time/us';

/** A place between two recorded moments of what stands in the film; null: at the film's end. */
export type Gap = { readonly placementId: Id; readonly takeUs: Us } | null;

/** What stands in the film, on the way to another order: without an id it is new, without a rank it has yet to get one. */
interface Part {
  readonly id: Id | null;
  readonly takeId: Id;
  readonly startUs: Us;
  readonly endUs: Us | null;
  readonly rank: Rank | null;
}

const onFrame = (us: Us): Us => frameToUs(nearestFrame(us));

/** Divides the part that a moment of a place lies inside of; at its ends nothing is divided. */
const divided = (lesson: Lesson, parts: readonly Part[], placementId: Id, us: Us): Part[] => {
  let isAt = false;
  return parts.flatMap((part) => {
    // What was divided before stands behind its first part, and has no name yet.
    isAt = part.id === null ? isAt : part.id === placementId;
    const endUs = part.endUs ?? takeOf(lesson, part.takeId)?.durationUs ?? 0;
    if (!isAt || us <= part.startUs || us >= endUs) return [part];
    return [
      { ...part, endUs: us },
      { ...part, id: null, rank: null, startUs: us },
    ];
  });
};

/** The index of the part of a place that begins at a moment, or after it; behind its last where none does. */
const indexAt = (parts: readonly Part[], placementId: Id, us: Us): number => {
  const first = parts.findIndex(({ id }) => id === placementId);
  let index = first;
  while (parts[index] && (index === first || parts[index]!.id === null)) {
    if (parts[index]!.startUs >= us) return index;
    index++;
  }
  return index;
};

/** What has to be decided so that a list of parts stands in the film in their order; what is moved comes first. */
const editsFor = (parts: readonly Part[], before: readonly Placed[], newId: () => Id): Edit[] => {
  const trimBefore = new Map(before.map(({ id, startUs, endUs }) => [id, [startUs, endUs]]));
  const [places, trims]: [Edit[], Edit[]] = [[], []];
  let lastRank: Rank | null = null;
  parts.forEach((part, index) => {
    const { takeId, startUs, endUs } = part;
    const id = part.id ?? newId();
    let { rank } = part;
    if (rank === null) {
      const after = parts.slice(index + 1).find((one) => one.rank !== null)?.rank ?? null;
      rank = rankBetween(lastRank, after);
      places.push({ do: 'place', placement: { id, takeId, rank }, arrives: false });
    }
    lastRank = rank;
    const [wasStart, wasEnd] = trimBefore.get(id) ?? [0, null];
    if (wasStart !== startUs || wasEnd !== endUs) {
      trims.push({ do: 'trim', placementId: id, startUs, endUs });
    }
  });
  return [...places, ...trims];
};

const partsOf = (placed: readonly Placed[]): Part[] =>
  placed.map(({ id, takeId, startUs, endUs, rank }) => ({ id, takeId, startUs, endUs, rank }));

/**
 * Divides what stands in the film in two, which can then be moved and trimmed each by itself. The film stays as it is.
 *
 * @param newId makes a name for a place
 * @returns what is to be decided; nothing where there is nothing to divide
 */
export const divide = (
  lesson: Lesson,
  { placementId, takeUs }: NonNullable<Gap>,
  newId: () => Id,
): Edit[] => {
  const placed = placedIn(lesson);
  return editsFor(divided(lesson, partsOf(placed), placementId, onFrame(takeUs)), placed, newId);
};

/** What is to be decided so that a stretch is moved, and the place in the film that it then has. */
export interface Moved {
  readonly edits: readonly Edit[];
  readonly placementId: Id;
}

/**
 * Moves a stretch of what stands in the film to between two other moments of it, across takes too.
 *
 * @param to where it comes to stand: before that moment
 * @param newId makes a name for a place
 * @returns null where it would stay where it is
 */
export const moveStretch = (
  lesson: Lesson,
  stretch: TimeRange & { readonly placementId: Id },
  to: Gap,
  newId: () => Id,
): Moved | null => {
  const placed = placedIn(lesson);
  const { placementId } = stretch;
  const [startUs, endUs] = [onFrame(stretch.startUs), onFrame(stretch.endUs)];
  if (!placed.some(({ id }) => id === placementId)) return null;
  let parts = partsOf(placed);
  parts = divided(lesson, parts, placementId, startUs);
  parts = divided(lesson, parts, placementId, endUs);
  if (to) parts = divided(lesson, parts, to.placementId, onFrame(to.takeUs));
  const from = indexAt(parts, placementId, startUs);
  const end = indexAt(parts, placementId, endUs);
  const at = to ? indexAt(parts, to.placementId, onFrame(to.takeUs)) : parts.length;
  if (end <= from || (at >= from && at <= end)) return null;
  const moving = parts.slice(from, end);
  // Its first part may be one that has its name from before: the name stays where most of the take stays.
  const rest = [...parts.slice(0, from), ...parts.slice(end)];
  const into = at > from ? at - moving.length : at;
  const kept = keepingNames(parts, moving, rest);
  const named = kept.moving.map((part) => ({ ...part, id: part.id ?? newId() }));
  const order = [...kept.rest.slice(0, into), ...named, ...kept.rest.slice(into)];
  return { edits: editsFor(order, placed, newId), placementId: named[0]!.id };
};

/**
 * Where a place begins with what is moved, its name stays with what stays: the first part that is left of it. A place
 * that is moved as a whole takes its name along, and gets another rank.
 */
const keepingNames = (
  parts: readonly Part[],
  moving: readonly Part[],
  rest: readonly Part[],
): { moving: Part[]; rest: Part[] } => {
  const [first] = moving;
  const left = first?.id ? parts[parts.indexOf(moving.at(-1)!) + 1] : undefined;
  if (!first?.id || left?.id !== null) {
    return { moving: moving.map((part) => ({ ...part, rank: null })), rest: [...rest] };
  }
  const { id, rank } = first;
  return {
    moving: moving.map((part) => ({
      ...part,
      ...(part === first ? { id: null } : {}),
      rank: null,
    })),
    rest: rest.map((part) => (part === left ? { ...part, id, rank } : part)),
  };
};
