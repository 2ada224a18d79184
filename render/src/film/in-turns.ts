import { AskedPieces, PieceOrder, type AskedPiece, type PieceToMake } from './piece-order';

/** A piece that isn't there yet. */
export interface Missing extends PieceToMake {
  /** @param background it gives way to everything else */
  readonly make: (background: boolean) => Promise<void>;
}

/** Pieces rendered in parallel for waiting viewers, in addition to the turns: sound has its own slot, because it is quick. */
const AT_ONCE = { picture: 2, sound: 1 } as const;
/** A film counts as watched for this long after a request for one of its pieces, ms. */
export const WATCHED_MS = 10_000;

interface Turns {
  /** Pieces that are made at a time. */
  readonly atOnce?: number;
  /** Waits for a turn among all films. */
  readonly turn?: () => Promise<() => void>;
  readonly asked?: AskedPieces;
}

/**
 * Makes pieces a few at a time, each in its turn. What somebody waits for is made at once, besides; while somebody watches, what
 * comes next for them gives way to nothing, and the rest does. The first failure stops the rest.
 */
export const inTurns = async (
  pieces: readonly Missing[],
  { atOnce = 2, turn = async () => () => undefined, asked = new AskedPieces() }: Turns,
  stop: AbortController,
): Promise<void> => {
  const order = new PieceOrder(pieces, asked);
  let askedAt = 0;
  const isWatched = () => Date.now() - askedAt < WATCHED_MS;
  const line = async (_: unknown, number: number) => {
    // Which piece a turn is for is decided when it has come.
    while (order.left > 0) {
      stop.signal.throwIfAborted();
      // Nothing is begun while somebody waits.
      const hurrying = [...hurried.picture, ...hurried.sound];
      if (hurrying.length > 0) {
        await Promise.race(hurrying);
        continue;
      }
      const giveBack = await turn();
      try {
        stop.signal.throwIfAborted();
        await order.next()?.make(number > 0 && isWatched());
      } finally {
        giveBack();
      }
    }
  };
  const hurried = { picture: new Set<Promise<void>>(), sound: new Set<Promise<void>>() };
  const hurryOf = (of: AskedPiece['of']) => {
    while (hurried[of].size < AT_ONCE[of] && !stop.signal.aborted) {
      const piece = order.nextAsked(of);
      if (!piece) return;
      const made = piece
        .make(false)
        .catch((error: unknown) => stop.abort(error))
        .finally(() => {
          hurried[of].delete(made);
          hurry();
        });
      hurried[of].add(made);
    }
  };
  const hurry = () => {
    hurryOf('sound');
    hurryOf('picture');
  };
  asked.onAsked(() => {
    askedAt = Date.now();
    hurry();
  });
  hurry();
  const lines = Array.from({ length: atOnce }, line);
  try {
    await Promise.all(lines);
    await Promise.all([...hurried.picture, ...hurried.sound]);
    stop.signal.throwIfAborted();
  } catch (error) {
    stop.abort(error);
    await Promise.allSettled([...lines, ...hurried.picture, ...hurried.sound]);
    throw error;
  } finally {
    asked.onAsked(() => undefined);
  }
};
