import { pathTo } from '@under-chalk/core/contract/api';
import { speechIn } from '@under-chalk/core/sound/phrases';
import { levelsIn, type Loudness, type SoundLevels } from '@under-chalk/core/sound/levelling';
import { hasBoth } from '@under-chalk/core/sound/ducking';
import type { TimeRange } from '@under-chalk/core/time/ranges';
import { Limiter } from '@under-chalk/core/sound/limiter';
import type { Decisions } from '@under-chalk/core/edit/decisions';
import { ofMedium } from '@under-chalk/core/lesson/medium';
import type { Take } from '@under-chalk/core/lesson/take';
import { bytesAt, call } from '../data/client';

/** Where the server gives the worklet: a file of its own, as `addModule` wants it. */
const WORKLET = '/worklets/limiter.js';

/** What is played goes through here, and how much later it is heard, seconds. */
export interface Out {
  readonly node: AudioNode;
  readonly latency: number;
}

/** Sound as loud as it is in the film: by how much each track is louder, and what brings down what would be too loud. */
export class LevelledSound {
  readonly #loudness = new Map<string, Loudness>();
  /** Where somebody speaks over what the computer plays. */
  readonly #speech = new Map<string, readonly TimeRange[]>();
  readonly #asked = new Set<string>();
  readonly #ask: (takeId: string) => Promise<readonly (Loudness & { trackId: string })[]>;
  #limiter: Out | null = null;

  constructor(ask = (takeId: string) => call('loudness', { params: { takeId } })) {
    this.#ask = ask;
  }

  /** Fetches how loud the tracks of some takes are, as far as that isn't known. */
  fetch(takes: Iterable<Take>): void {
    for (const take of takes) {
      const sounding = ofMedium(take.tracks, 'sound');
      const name = sounding.map(({ id, digest }) => `${id} ${digest}`).join();
      if (sounding.length === 0 || take.state !== 'ready' || this.#asked.has(name)) continue;
      this.#asked.add(name);
      if (hasBoth(take)) void this.#fetchSpeech(take);
      this.#ask(take.id).then(
        (tracks) => tracks.forEach(({ trackId, lufs }) => this.#loudness.set(trackId, { lufs })),
        (error: unknown) => {
          this.#asked.delete(name);
          console.error('how loud a take is can’t be fetched', error);
        },
      );
    }
  }

  /** How loud tracks are against how they were recorded, as far as that is known. */
  levelsIn(decisions: Pick<Decisions, 'unlevelled' | 'duckingDb'>): SoundLevels | null {
    return levelsIn(
      decisions,
      (trackId) => this.#loudness.get(trackId) ?? null,
      (takeId) => this.#speech.get(takeId) ?? [],
    );
  }

  async #fetchSpeech(take: Take): Promise<void> {
    try {
      this.#speech.set(take.id, speechIn(await bytesAt(pathTo('levels', { takeId: take.id }))));
    } catch (error) {
      console.error('where somebody speaks can’t be fetched', error);
    }
  }

  /** Fetches the limiter for a context. Until it is there sound goes past it. */
  prepare(audio: AudioContext): void {
    // There is none on pages that came without TLS from another machine.
    const worklets = audio.audioWorklet as AudioWorklet | undefined;
    worklets?.addModule(WORKLET).then(
      () => {
        if (audio.state === 'closed') return;
        const node = new AudioWorkletNode(audio, 'limiter', {
          ...{ channelCount: 2, channelCountMode: 'explicit', outputChannelCount: [2] },
        });
        node.connect(audio.destination);
        const { latency } = new Limiter(audio.sampleRate, 2);
        this.#limiter = { node, latency: latency / audio.sampleRate };
      },
      (error: unknown) => console.error('what is too loud can’t be brought down', error),
    );
  }

  /** What a film is played through. */
  out(audio: AudioContext): Out {
    return this.#limiter ?? { node: audio.destination, latency: 0 };
  }
}
