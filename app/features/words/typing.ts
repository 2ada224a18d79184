import * as z from 'zod';
import type { Us } from '@under-chalk/core/time/us';
import type { TimeRange } from '@under-chalk/core/time/ranges';
import { MOST_A_SECOND } from '@under-chalk/core/words/checks';
import { fitsOneCue } from '@under-chalk/core/words/lines';
import { LiveValue, type Watched } from '../../data/live-value';
import { readSetting, writeSetting } from '../../data/kept-setting';
import type { FilmPlayer } from '../../player/film-player';

/** What is being typed while it is listened to. */
export interface TypingView {
  readonly text: string;
  /** Where what is typed begins, µs of the film. */
  readonly fromUs: Us;
  /** The film waits for the typing to pause. */
  readonly waits: boolean;
}

/** Without a press for so long the film goes on, ms: a word at 30 a minute takes two seconds, with presses all along. */
const GOES_ON_MS = 1_100;
/** So far a key takes the film back, µs. */
const BACK_US = 3_000_000;
/** A film that the first key has started keeps playing for this long, so that something is heard, µs. */
const HEARD_US = 2_000_000;
/** Text that was typed without listening is shown at least this long, µs, and this long per character. */
const LEAST_US = 1_000_000;
const SIGN_US = 1_000_000 / MOST_A_SECOND;
/** Where nobody is heard, what is typed is taken to have been said so long, µs. */
const SAID_US = 3_000_000;

const keptSchema = z.object({ text: z.string().max(2_000), fromUs: z.number().int().min(0) });

type Player = Pick<FilmPlayer, 'view' | 'play' | 'pause' | 'seek'>;

interface Parts {
  readonly player: Player;
  /** What is typed is kept under this name with each press. */
  readonly key: string;
  /** Where somebody speaks, in times of the film. */
  readonly speech: () => readonly TimeRange[];
  /** Puts down what was typed for a stretch of the film. */
  readonly put: (text: string, startUs: Us, endUs: Us) => void;
}

/**
 * Typing captions while the film plays: with a press it waits, and goes on when the typing pauses. A finished sentence, or as much as two
 * lines hold, is a caption. Every press is kept in the browser until its caption is put down.
 */
export class Typing implements Watched<TypingView> {
  readonly #parts: Parts;
  readonly #shown: LiveValue<TypingView>;
  #timer: ReturnType<typeof setTimeout> | undefined;
  /** It plays, but for the waiting. */
  #listens = false;
  /** The film was neither played nor stopped yet. */
  #isUntouched = true;
  /** The first key has started the film, and its first words are being heard. */
  #begunByKey = false;

  constructor(parts: Parts) {
    this.#parts = parts;
    const kept = readSetting(parts.key, keptSchema, {
      text: '',
      fromUs: parts.player.view().filmUs,
    });
    this.#shown = new LiveValue<TypingView>({ ...kept, waits: false });
  }

  readonly subscribe = (listener: () => void): (() => void) => this.#shown.subscribe(listener);
  readonly view = (): TypingView => this.#shown.view();

  #set(change: Partial<TypingView>): void {
    this.#shown.set({ ...this.view(), ...change });
    const { text, fromUs } = this.view();
    writeSetting(this.#parts.key, text === '' ? null : { text, fromUs });
  }

  /** Types on from a place of the film. */
  goTo(filmUs: Us): void {
    this.#set({ fromUs: filmUs });
    void this.#parts.player.seek(filmUs);
  }

  /** Plays from where what is typed next begins; or stops. */
  listen(on: boolean): void {
    clearTimeout(this.#timer);
    [this.#begunByKey, this.#isUntouched] = [false, false];
    this.#listens = on;
    this.#set({ waits: false });
    if (on) this.#parts.player.play();
    else this.#parts.player.pause();
  }

  /** The field says this now. */
  type(text: string): void {
    const { player } = this.#parts;
    const { playing, filmUs } = player.view();
    const before = this.view();
    // It was played by another button, or looked for elsewhere.
    if (playing) this.#listens = true;
    // Typing can be ahead of the film; that is no seek backwards.
    const wentBack = filmUs < before.fromUs && !this.#begunByKey;
    if (before.text === '' && (wentBack || !this.#near(before.fromUs, filmUs))) {
      this.#set({ fromUs: Math.max(0, filmUs - SAID_US) });
    }
    const isUnheard = filmUs - this.view().fromUs < HEARD_US;
    if (this.#isUntouched && !playing && isUnheard && before.text === '' && text !== '') {
      this.#begunByKey = true;
      this.#listens = true;
      player.play();
    }
    this.#isUntouched = false;
    if (this.#begunByKey && isUnheard) {
      this.#set({ text, waits: false });
      return this.#finishAtEnd(text);
    }
    this.#begunByKey = false;
    if (playing) player.pause();
    this.#set({ text, waits: this.#listens });
    clearTimeout(this.#timer);
    if (this.#listens) this.#timer = setTimeout(() => this.#goOn(), GOES_ON_MS);
    this.#finishAtEnd(text);
  }

  #finishAtEnd(text: string): void {
    if (/[.!?…。！？]["”’)]?\s$/.test(text) || (/\s$/.test(text) && !fitsOneCue(text)))
      this.finish();
  }

  /** Whether a place of the film has been listened to from another on, and not jumped to. */
  #near(fromUs: Us, filmUs: Us): boolean {
    return Math.abs(filmUs - fromUs) < 30_000_000;
  }

  #goOn(): void {
    this.#set({ waits: false });
    if (this.#listens) this.#parts.player.play();
  }

  /** Puts down what is typed, for what was heard since the last caption. */
  finish(): void {
    const { player, put } = this.#parts;
    const { text, fromUs } = this.view();
    const clean = text.trim();
    if (clean === '') return this.#set({ text: '' });
    const nowUs = player.view().filmUs;
    const wasHeard = nowUs - fromUs >= 500_000;
    const leastUs = wasHeard ? 500_000 : Math.max(LEAST_US, Math.ceil(clean.length * SIGN_US));
    const [startUs, endUs] = this.#saidIn(fromUs, Math.max(nowUs, fromUs + leastUs));
    put(clean, startUs, endUs);
    this.#set({ text: '', fromUs: Math.max(nowUs, endUs) });
  }

  /** What of a stretch somebody speaks in; where nobody is found to, all of it. */
  #saidIn(fromUs: Us, toUs: Us): [Us, Us] {
    const inside = this.#parts
      .speech()
      .filter(({ startUs, endUs }) => endUs > fromUs + 100_000 && startUs < toUs - 100_000);
    if (inside.length === 0) return [fromUs, toUs];
    return [Math.max(fromUs, inside[0]!.startUs), Math.min(toUs, inside.at(-1)!.endUs)];
  }

  /** Hears the last three seconds once more. */
  back(): void {
    const { player } = this.#parts;
    clearTimeout(this.#timer);
    [this.#begunByKey, this.#isUntouched] = [false, false];
    this.#listens = true;
    this.#set({ waits: false });
    void player.seek(Math.max(0, player.view().filmUs - BACK_US)).then(() => player.play());
  }

  close(): void {
    clearTimeout(this.#timer);
    this.#listens = false;
    this.#parts.player.pause();
  }
}
