/** In which order the pieces of a film are made: those that somebody waits for first, then what follows on them. */

export interface AskedPiece {
  readonly of: 'picture' | 'sound';
  /** Which piece of the film's pictures, or of its sound. */
  readonly index: number;
}

/** Pieces that are asked for while a film is being made, wherever that is done. */
export class AskedPieces {
  #asked: AskedPiece[] = [];
  #passOn: ((piece: AskedPiece) => void) | null = null;
  #onAsked: () => void = () => undefined;

  ask(piece: AskedPiece): void {
    if (this.#passOn) this.#passOn(piece);
    else {
      this.#asked.push(piece);
      this.#onAsked();
    }
  }

  /** @param tell told whenever a piece has been asked for that is to be made here */
  onAsked(tell: () => void): void {
    this.#onAsked = tell;
  }

  /** From now on they are told to whoever makes the film elsewhere; those that were asked for before too. */
  passOnTo(tell: (piece: AskedPiece) => void): void {
    this.#passOn = tell;
    this.takeAll().forEach(tell);
  }

  takeAll(): AskedPiece[] {
    return this.#asked.splice(0);
  }
}

/** A piece that is still to be made. */
export interface PieceToMake extends AskedPiece {
  /** Frame of the film at which it begins, about. */
  readonly frame: number;
}

/** Gives out pieces to be made, each once. */
export class PieceOrder<P extends PieceToMake> {
  /** In the order of the film. */
  readonly #left: P[];
  readonly #asked: AskedPieces;
  /** Asked for, and not given out yet. */
  readonly #first: AskedPiece[] = [];
  /** Whoever watches goes on from here. */
  #from = 0;

  constructor(pieces: readonly P[], asked: AskedPieces) {
    const order = { sound: 0, picture: 1 };
    this.#left = [...pieces].sort((a, b) => a.frame - b.frame || order[a.of] - order[b.of]);
    this.#asked = asked;
  }

  /** How many have not been given out. */
  get left(): number {
    return this.#left.length;
  }

  /**
   * The next piece that somebody waits for, sound before pictures: it is quick, and nothing plays without it. Undefined when there
   * is none that isn't being made.
   *
   * @param only of this kind alone
   */
  nextAsked(only?: AskedPiece['of']): P | undefined {
    this.#first.push(...this.#asked.takeAll());
    for (const of of only ? [only] : (['sound', 'picture'] as const)) {
      const isOf = (asked: AskedPiece) => asked.of === of;
      for (let asked = this.#first.find(isOf); asked; asked = this.#first.find(isOf)) {
        const { index } = asked;
        this.#first.splice(this.#first.indexOf(asked), 1);
        const at = this.#left.findIndex((piece) => piece.of === of && piece.index === index);
        if (at < 0) continue;
        // A piece of sound reaches over several of pictures: where it begins says nothing of who watches.
        if (of === 'picture') this.#from = this.#left[at]!.frame;
        return this.#take(at);
      }
    }
    return undefined;
  }

  /** The next one; undefined when all have been given out. */
  next(): P | undefined {
    const asked = this.nextAsked();
    if (asked) return asked;
    const ahead = this.#left.findIndex(({ frame }) => frame >= this.#from);
    return this.#take(Math.max(0, ahead));
  }

  #take(at: number): P | undefined {
    return this.#left.splice(at, 1)[0];
  }
}
