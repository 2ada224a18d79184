import type { Edit } from '../edit/edit';
import type { Decisions } from '../edit/decisions';
import type { Id } from '../lesson/take';
import type { Us } from '../time/us';
import { isShape, type Pen } from './pen';
import { MOST_SAMPLES, type InkRecord, type InkSample } from './record';

/**
 * How what is written afterwards comes into the picture: all of it at once, as the hand drew it, or drawn within so
 * many µs.
 */
export type Appearing = 'at-once' | 'as-drawn' | Us;

/** Where something is written on a film. */
export interface WrittenWhere {
  readonly takeId: Id;
  /** The page that is shown there; null where there is none. */
  readonly page: Id | null;
  /** The recorded time that a time of the records is. */
  readonly takeUs: (at: Us) => Us;
  readonly appearing: Appearing;
}

interface Drawn {
  readonly pen: Pen;
  readonly text: string;
  readonly at: Us;
  readonly places: { readonly us: Us; x: number; y: number; readonly pressure: number }[];
}

/** No more than may be in one stroke, the last among them. */
const thinned = <T>(list: readonly T[]): T[] => {
  const every = Math.ceil(list.length / MOST_SAMPLES);
  return list
    .filter((_, index) => index % every === 0 || index === list.length - 1)
    .slice(-MOST_SAMPLES);
};

const samplesOf = ({ pen, places }: Drawn, appearing: Appearing): InkSample[] => {
  const [first, last] = [places[0]!, places.at(-1)!];
  const ends = isShape(pen.tool) && appearing === 'at-once' ? [first, last] : thinned(places);
  const lasted = last.us - first.us;
  const times =
    appearing === 'as-drawn' ? 1 : appearing === 'at-once' || lasted === 0 ? 0 : appearing / lasted;
  return ends.map(({ us, x, y, pressure }, index): InkSample => [
    Math.round((us - (ends[index - 1]?.us ?? first.us)) * times),
    ...([x, y, pressure] as const),
  ]);
};

/**
 * What a hand did on a film, as edits: what it drew is added, what it wiped is taken away, and what it moved lies
 * elsewhere.
 *
 * @param laid strokes that were there before
 * @param changes what has been changed about them: a move adds to those before
 */
export const editsOf = (
  records: readonly InkRecord[],
  laid: ReadonlySet<Id>,
  changes: Decisions['inkChanges'],
  { takeId, page, takeUs, appearing }: WrittenWhere,
): Edit[] => {
  const drawn = new Map<Id, Drawn>();
  const gone = new Set<Id>();
  const moved = new Map<Id, { x: number; y: number }>();
  for (const record of records) {
    switch (record.do) {
      case 'begin': {
        const { pen, text = '', at } = record;
        drawn.set(record.stroke, { pen, text, at, places: [] });
        break;
      }
      case 'draw': {
        let us = record.at;
        const places = drawn.get(record.stroke)?.places;
        for (const [later, x, y, pressure] of record.samples) {
          places?.push({ us: (us += later), x, y, pressure });
        }
        break;
      }
      case 'wipe':
        for (const id of record.strokes) if (!drawn.delete(id) && laid.has(id)) gone.add(id);
        break;
      case 'unwipe':
        record.strokes.forEach((id) => gone.delete(id));
        break;
      case 'shift':
        for (const id of record.strokes) {
          for (const place of drawn.get(id)?.places ?? []) {
            place.x += record.x;
            place.y += record.y;
          }
          if (!laid.has(id)) continue;
          const by = moved.get(id) ?? { x: 0, y: 0 };
          moved.set(id, { x: by.x + record.x, y: by.y + record.y });
        }
    }
  }
  const added = [...drawn].flatMap(([id, one]): Edit[] => {
    if (one.places.length === 0) return [];
    const { pen, text, at } = one;
    const samples = samplesOf(one, appearing);
    return [{ do: 'add-ink', takeId, stroke: { id, page, pen, text, atUs: takeUs(at), samples } }];
  });
  const before = new Map(
    changes.flatMap((one) => (one.takeId === takeId ? [[one.strokeId, one.change]] : [])),
  );
  // Those that end up moved by the same go into one edit.
  const together = new Map<string, { ids: Id[]; x: number; y: number }>();
  const rounded = (value: number) => Math.round(value * 1e5) / 1e5;
  for (const [id, by] of moved) {
    if (gone.has(id) || (by.x === 0 && by.y === 0)) continue;
    const x = rounded((before.get(id)?.x ?? 0) + by.x);
    const y = rounded((before.get(id)?.y ?? 0) + by.y);
    const same = together.get(`${x} ${y}`) ?? { ids: [], x, y };
    same.ids.push(id);
    together.set(`${x} ${y}`, same);
  }
  const shifted = [...together.values()].map(({ ids, x, y }): Edit => ({
    ...{ do: 'change-ink', takeId, strokes: ids },
    change: { x, y },
  }));
  const taken: Edit[] =
    gone.size === 0
      ? []
      : [{ do: 'change-ink', takeId, strokes: [...gone], change: { gone: true } }];
  return [...added, ...shifted, ...taken];
};
