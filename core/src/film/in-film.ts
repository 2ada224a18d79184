import type { Id } from '../lesson/take';
import { frameAt } from '../time/frames';
import type { Us } from '../time/us';
import type { Film } from './film';
import { filmIn } from './span';

/** Something that stands at a moment of recorded time. */
export interface AtMoment {
  readonly takeId: Id;
  readonly atUs: Us;
}

/** The same where the film comes to it. */
export interface InFilm<T extends AtMoment> {
  readonly of: T;
  readonly placementId: Id;
  readonly filmUs: Us;
}

/** What a film comes to, in its order. What stands at a moment that was cut is not in it; of a take that stands twice it is twice. */
export const inFilm = <T extends AtMoment>(film: Film, all: readonly T[]): InFilm<T>[] =>
  all.length === 0
    ? []
    : film.spans.flatMap((span) =>
        all
          .filter(({ takeId, atUs }) => {
            const frame = frameAt(atUs);
            return takeId === span.take.id && frame >= span.startFrame && frame < span.endFrame;
          })
          .map((of) => ({ of, placementId: span.placementId, filmUs: filmIn(span, of.atUs) })),
      );

/** What a film comes to between two looks at where it is, while it plays; a jump of more than `mostUs` comes to nothing. */
export const cameTo = <T extends { readonly filmUs: Us }>(
  all: readonly T[],
  { fromUs, toUs }: { readonly fromUs: Us; readonly toUs: Us },
  mostUs: Us,
): T | undefined =>
  toUs <= fromUs || toUs - fromUs > mostUs
    ? undefined
    : all.find(({ filmUs }) => filmUs > fromUs && filmUs <= toUs);
