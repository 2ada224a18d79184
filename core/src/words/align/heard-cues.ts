import type { TimeRange } from '../../time/ranges';
import type { Us } from '../../time/us';
import type { Cue, WordTime } from '../cue';

/** A stretch of recorded time, and where it lies in what was listened to. */
export interface HeardPiece extends TimeRange {
  readonly takeId: string;
  readonly atUs: Us;
}

const pieceAt = (pieces: readonly HeardPiece[], us: Us): HeardPiece | undefined =>
  pieces.findLast(({ atUs }) => atUs <= us) ?? pieces[0];

const within = (piece: HeardPiece, us: Us): Us =>
  Math.min(piece.endUs, Math.max(piece.startUs, Math.round(piece.startUs + us - piece.atUs)));

/**
 * A cue at the times at which its words were heard; null where they weren't, or not in one take.
 *
 * @param times of its words, in what was listened to
 */
export const cueHeard = (
  cue: Cue,
  times: readonly WordTime[] | null,
  pieces: readonly HeardPiece[],
): Cue | null => {
  if (!times || times.length === 0) return null;
  const first = pieceAt(pieces, (times[0]![0] + times[0]![1]) / 2);
  if (!first) return null;
  const words: WordTime[] = [];
  for (const [startUs, endUs, sure] of times) {
    const piece = pieceAt(pieces, (startUs + endUs) / 2)!;
    const last = words.at(-1)?.[1] ?? 0;
    // A take that stands in several places is gone back in.
    if (piece.takeId !== first.takeId || within(piece, endUs) < last) return null;
    words.push([Math.max(last, within(piece, startUs)), within(piece, endUs), sure]);
  }
  const [startUs, endUs] = [words[0]![0], words.at(-1)![1]];
  if (endUs <= startUs) return null;
  return { ...cue, takeId: first.takeId, startUs, endUs, words, timed: 'by-voice' };
};

/** Stretches of what was listened to, as they were recorded; one that goes over a cut is in as many as it lies in. */
export const recordedRanges = (
  ranges: readonly TimeRange[],
  pieces: readonly HeardPiece[],
): (TimeRange & { readonly takeId: string })[] =>
  ranges.flatMap((range) =>
    pieces.flatMap(({ takeId, startUs, endUs, atUs }) => {
      const from = Math.max(range.startUs, atUs);
      const to = Math.min(range.endUs, atUs + endUs - startUs);
      return to - from < 100_000
        ? []
        : [
            {
              takeId,
              startUs: Math.round(startUs + from - atUs),
              endUs: Math.round(startUs + to - atUs),
            },
          ];
    }),
  );
