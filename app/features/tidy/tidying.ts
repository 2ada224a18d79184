import { applyEdit } from '@under-chalk/core/edit/apply-edit';
import {
  filmOf,
  filmTimeFrom,
  filmTimeOf,
  recordedAt,
  type RecordedPlace,
} from '@under-chalk/core/film/film';
import { cardPlaceOf, type CardPlace } from '@under-chalk/core/lesson/title-card';
import { takeOf } from '@under-chalk/core/lesson/lesson';
import type { NoiseReduction } from '@under-chalk/core/sound/noise-reduction/noise-reduction';
import type { NoiseReducedSound } from '../../player/noise-reduced-sound';
import { frameToUs } from '@under-chalk/core/time/frames';
import { createContext, useContext, useEffect, useMemo, useRef, type RefObject } from 'react';
import type { View } from 'react-native';
import { LiveValue, usePart, type Watched } from '../../data/live-value';
import type { FilmPlayer } from '../../player/film-player';
import { focusOn } from '../../ui/focus';
import type { Shows } from './speaking/speaking-over';
import { reaching, type ChosenStretch, type OpenStretch } from './open-stretch';

/** While it plays the column follows in steps: it isn't drawn anew with each picture. µs. */
const STEP_US = 250_000;
/** A picture well inside a stretch, and not the last one before it. µs. */
const INSIDE_US = 20_000;

/** How it stands with what is being tidied, beside the lesson itself. */
export interface TidyView {
  /** What is chosen for fine work. */
  readonly open: ChosenStretch | null;
  /** Where the picture stands; null in an empty film. */
  readonly here: RecordedPlace | null;
  readonly playing: boolean;
  /** Where the focus goes when what a press has made is there; null once it is. */
  readonly wish: RecordedPlace | null;
  /** The place in the film that was moved last: its heading has the focus. */
  readonly moved: string | null;
  /** What is in hand, on its way to another place of the film. */
  readonly carried: OpenStretch | null;
}

const NOTHING: TidyView = {
  ...{ open: null, here: null, playing: false, wish: null, moved: null, carried: null },
};

type Player = Pick<
  FilmPlayer,
  'film' | 'view' | 'subscribe' | 'seek' | 'play' | 'tryOut' | 'inkOf' | 'noiseReduced' | 'pause'
>;

/** How much is heard before a join and after it, µs. */
const ROUND_JOIN_US = 1_500_000;

const samePlace = (a: RecordedPlace | null, b: RecordedPlace | null): boolean =>
  a?.placementId === b?.placementId && a?.takeUs === b?.takeUs;

/** The state of Tidy as one value that is watched: only what shows a part that has changed is drawn. */
export class Tidying implements Watched<TidyView> {
  readonly #player: Player;
  readonly #shown = new LiveValue<TidyView>(NOTHING);
  #follows: (() => void) | null = null;
  /** The card that is to be seen once it is there. */
  #wanted: CardPlace | null = null;

  constructor(player: Player) {
    this.#player = player;
    this.#follow();
  }

  readonly subscribe = this.#shown.subscribe;
  readonly view = this.#shown.view;

  /** Follows the player until it is closed. */
  start(): void {
    this.#follows ??= this.#player.subscribe(() => this.#follow());
    this.#follow();
  }

  close(): void {
    this.#follows?.();
    this.#follows = null;
  }

  #follow(): void {
    if (this.#wanted) this.#showWanted();
    const { film } = this.#player;
    const { filmUs, playing } = this.#player.view();
    const at = playing ? Math.floor(filmUs / STEP_US) * STEP_US : filmUs;
    const here = recordedAt(film, Math.min(at, Math.max(0, film.durationUs - 1)));
    const before = this.view();
    if (samePlace(before.here, here) && before.playing === playing) return;
    this.#shown.set({ ...before, here, playing });
  }

  /** Opens a stretch for fine work and shows its picture; null closes the one that is open. */
  open(stretch: OpenStretch | null): void {
    const opened = stretch && { startUs: stretch.startUs, endUs: stretch.endUs };
    this.#shown.set({ ...this.view(), open: stretch && opened && { ...stretch, opened } });
    if (stretch) this.show(stretch);
  }

  /** Shows the picture of a stretch; of one that was cut, none. */
  show(stretch: OpenStretch): void {
    const place = { ...stretch, takeUs: stretch.startUs + INSIDE_US };
    const filmUs = filmTimeOf(this.#player.film, place);
    if (filmUs !== null) void this.#player.seek(filmUs);
  }

  /** Chooses another run round the phrase that is open. */
  choose(stretch: ChosenStretch): void {
    this.#shown.set({ ...this.view(), open: stretch });
  }

  /**
   * Chooses the run from the phrase that is open to another; opens that one where none is open in the same place of the
   * film.
   */
  reach(stretch: OpenStretch): void {
    const { open } = this.view();
    if (open?.placementId === stretch.placementId)
      this.choose(reaching(open, open.opened, stretch));
    else this.open(stretch);
  }

  /** Moves an end of what is chosen, and shows the picture there. */
  moveEnd(end: 'startUs' | 'endUs', us: number): void {
    const { open } = this.view();
    if (!open) return;
    this.choose({ ...open, [end]: us });
    // The last picture of it, and not the first after it.
    const takeUs = end === 'startUs' ? us + INSIDE_US : us - INSIDE_US;
    this.goTo(filmTimeFrom(this.#player.film, { ...open, takeUs }));
  }

  /** The recorded time at which another page of a take comes after a moment; null: none does. */
  turnAfter(takeId: string, us: number): number | null {
    return this.#player.inkOf(takeId)?.turns.find(({ atUs }) => atUs > us)?.atUs ?? null;
  }

  /** Takes a stretch into the hand, to put it elsewhere; null: it stays where it was. */
  carry(carried: OpenStretch | null): void {
    this.#shown.set({ ...this.view(), carried, open: null });
  }

  /** Plays the film as it would be without a stretch, from a little before it to a little after. */
  hearJoin({ takeId, placementId, startUs, endUs }: OpenStretch): void {
    const { lesson } = this.#player.film;
    const cut = { do: 'cut', takeId, startUs, endUs } as const;
    const film = filmOf({ ...lesson, decisions: applyEdit(lesson.decisions, cut) });
    if (film.frames === 0) return;
    const joinUs = filmTimeFrom(film, { takeId, placementId, takeUs: endUs });
    this.#player.tryOut(film, Math.max(0, joinUs - ROUND_JOIN_US), joinUs + ROUND_JOIN_US);
  }

  /** What plays the picture, for whoever speaks over it. */
  get shows(): Shows {
    const player = this.#player;
    return {
      ...{ view: player.view, subscribe: player.subscribe, pause: () => player.pause() },
      playSilently: (stretch) => this.playSilently(stretch),
    };
  }

  /** Voices without their rooms. */
  get noiseReduced(): NoiseReducedSound {
    return this.#player.noiseReduced;
  }

  /** Plays a stretch with the room under its voice taken down, or as it was recorded. @throws AppError */
  async hearRoom(
    { takeId, placementId, startUs, endUs }: OpenStretch,
    reduction: NoiseReduction | null,
  ): Promise<void> {
    const { lesson } = this.#player.film;
    const take = takeOf(lesson, takeId);
    if (!take) return;
    if (reduction) await this.#player.noiseReduced.fetchPart(take, reduction, { startUs, endUs });
    const edit = { do: 'reduce-noise', takeId, reduction } as const;
    const film = filmOf({ ...lesson, decisions: applyEdit(lesson.decisions, edit) });
    const filmAt = (takeUs: number) => filmTimeFrom(film, { takeId, placementId, takeUs });
    this.#player.tryOut(film, filmAt(startUs), filmAt(endUs));
  }

  /** Plays a stretch without a sound, and whatever is to come over it. @returns film time at which it ends */
  playSilently({ takeId, placementId, startUs, endUs }: OpenStretch): number {
    const { film } = this.#player;
    const { decisions } = film.lesson;
    const silence = { do: 'mute', takeId, startUs, endUs, silent: true } as const;
    const silent = filmOf({ ...film.lesson, decisions: applyEdit(decisions, silence) });
    const filmAt = (takeUs: number) => filmTimeFrom(film, { takeId, placementId, takeUs });
    this.#player.tryOut(silent, filmAt(startUs), filmAt(endUs));
    return filmAt(endUs);
  }

  /** The focus goes to the row of the column that a place will be in. */
  wishFocus(place: RecordedPlace): void {
    this.#shown.set({ ...this.view(), wish: place, moved: null });
  }

  /** The row that was wished for is there. */
  grantWish(): void {
    this.#shown.set({ ...this.view(), wish: null });
  }

  /** A take was moved: the focus goes with it. */
  moved(placementId: string): void {
    this.#shown.set({ ...this.view(), moved: placementId, wish: null });
  }

  /** Shows a moment of the film. */
  goTo(filmUs: number): void {
    void this.#player.seek(filmUs);
  }

  /** Shows a card, as soon as the film has it. */
  showCard(place: CardPlace): void {
    this.#wanted = place;
    this.#showWanted();
  }

  #showWanted(): void {
    const { spans } = this.#player.film;
    const card = spans.find(({ take }) => this.#wanted && cardPlaceOf(take) === this.#wanted);
    if (!card) return;
    this.#wanted = null;
    const middle = frameToUs(card.filmFrame + Math.floor(card.frames / 2));
    // After whatever the player does when it gets another film.
    queueMicrotask(() => this.goTo(middle));
  }

  /** Plays on from a stretch, or from what is kept after it. */
  play(stretch: OpenStretch): void {
    const filmUs = filmTimeFrom(this.#player.film, { ...stretch, takeUs: stretch.startUs });
    void this.#player.seek(filmUs).then(() => this.#player.play());
  }
}

export const TidyingContext = createContext<Tidying | null>(null);

/** The state of Tidy for a player, while its page is there. */
export const useNewTidying = (player: FilmPlayer): Tidying => {
  const tidying = useMemo(() => new Tidying(player), [player]);
  useEffect(() => {
    tidying.start();
    return () => tidying.close();
  }, [tidying]);
  return tidying;
};

/** What can be done in Tidy. */
export const useTidying = (): Tidying => {
  const tidying = useContext(TidyingContext);
  if (!tidying) throw new Error('useTidying stands inside Tidy');
  return tidying;
};

/** Part of the state of Tidy: drawn anew only when it changes (as in {@link usePart}). */
export const useTidy = <P>(part: (view: TidyView) => P): P => usePart(useTidying(), part);

/** For the part of a row that gets the focus when a place in that row is wished for. */
export const useWishedFocus = (
  placementId: string,
  startUs: number,
  endUs: number,
): RefObject<View | null> => {
  const tidying = useTidying();
  const part = useRef<View>(null);
  const wished = useTidy(
    ({ wish }) =>
      wish?.placementId === placementId && wish.takeUs >= startUs && wish.takeUs < endUs,
  );
  useEffect(() => {
    if (!wished) return;
    focusOn(part.current);
    tidying.grantWish();
  }, [wished, tidying]);
  return part;
};
