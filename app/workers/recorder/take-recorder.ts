import { pathTo } from '@under-chalk/core/contract/api';
import type { InkRecord } from '@under-chalk/core/ink/record';
import { mediumOf } from '@under-chalk/core/lesson/medium';
import { levelOf } from '@under-chalk/core/sound/level';
import { VoiceMemory } from '@under-chalk/core/sound/voice-memory';
import { TakeClock } from '@under-chalk/core/time/take-clock';
import type { FromRecorder, SourceToRecord } from '../../capture/recorder-messages';
import { makeTake } from '../../capture/sending/make-take';
import { TrackSender, type Halted } from '../../capture/sending/track-sender';
import { openStore } from '../../capture/store/open-store';
import type { KeptTake, PieceStore } from '../../capture/store/piece-store';
import { easeOf } from './ease';
import { framesOf, samplesOf } from './given';
import { INK_PIECE_MS, InkTrack } from './ink-track';
import { nowUs } from '../../capture/common-clock';
import { PictureTrack } from './picture-track';
import { PieceLine, type StoreTrouble } from './piece-line';
import { SoundTrack, type Ear } from './sound-track';
import type { TrackEvents } from './track-events';

const FIGURES_MS = 200;
const REPEAT_MS = 250;
const ALIVE_MS = 5_000;
/** How often the store is told how long the take is by now. */
const KEEP_MS = 2_000;
/** Set aside in the browser's store for the end of a take, bytes: what the largest one writes in four seconds. */
const RESERVE_BYTES = 12_000_000;
/** Levels come a hundred times a second; the page draws fifteen. */
const LEVEL_MS = 66;
/** How much can be looked back on after the stop. */
const LOOK_BACK_SECONDS = 10;
/** The last of it is waited for this long after the stop; then it is sent on in the background. */
const PATIENCE_MS = 4_000;

/** Told to the page; what is transferred is lent no longer. */
export type Tell = (message: FromRecorder, transfer?: Transferable[]) => void;

/**
 * One take being recorded: its tracks on one clock, what of it is kept in the browser and what is on its way to
 * the server. It is told what to do, and tells what happens; of windows and workers it knows nothing.
 */
export class TakeRecorder {
  readonly #tell: Tell;
  readonly #openStore: () => Promise<PieceStore | null>;
  readonly #clock = new TakeClock();
  readonly #memory = new VoiceMemory();
  readonly #lines: PieceLine[] = [];
  readonly #senders: TrackSender[] = [];
  readonly #pictures: PictureTrack[] = [];
  readonly #sounds: SoundTrack[] = [];
  /** What is written by hand; null where nothing can be. */
  #ink: InkTrack | null = null;
  #store: Promise<PieceStore | null> = Promise.resolve(null);
  #kept: KeptTake | null = null;
  /** The store keeps what is recorded. */
  #storing = true;
  /** The page has been told that the browser has no more room. */
  #storeFull = false;
  /** The take is not on the server yet. */
  #unmade = true;
  #unmadeWhy: Halted | null = null;
  #timers: ReturnType<typeof setInterval>[] = [];
  #stopping = false;
  /** Processes when the server has every byte. */
  #sending: Promise<void> = Promise.resolve();

  constructor(tell: Tell, open: () => Promise<PieceStore | null> = openStore) {
    this.#tell = tell;
    this.#openStore = open;
  }

  #tellFigures(): void {
    this.#tell({
      is: 'figures',
      figures: {
        elapsedUs: this.#clock.elapsedAt(nowUs()),
        unsentBytes: this.#lines.reduce((sum, line) => sum + line.unsentBytes, 0),
        halted:
          this.#senders.find((sender) => sender.halted)?.halted ??
          (this.#unmade ? this.#unmadeWhy : null),
        keptHere: this.#storing,
        droppedFrames: this.#dropped,
        frames: this.#pictures.reduce((sum, track) => sum + track.frames, 0),
      },
    });
  }

  /** Frames that were left out: the encoder was too far behind. */
  get #dropped(): number {
    return this.#pictures.reduce((sum, track) => sum + track.dropped, 0);
  }

  #voiceEar(): Ear {
    let last = 0;
    return {
      sense: (samples) => {
        const now = performance.now();
        if (now - last < LEVEL_MS) return;
        last = now;
        this.#tell({ is: 'level', level: levelOf(samples) });
      },
      hear: (samples, takeUs, sampleRate) => this.#memory.hear(samples, takeUs, sampleRate),
    };
  }

  get #tracks(): readonly (PictureTrack | SoundTrack | InkTrack)[] {
    return [...this.#pictures, ...this.#sounds, ...(this.#ink ? [this.#ink] : [])];
  }

  /**
   * Reads sources, so that each finds its place in time, until the take begins.
   *
   * @param inkTrackId the track of what is written by hand, if there is to be one
   */
  open(sources: readonly SourceToRecord[], inkTrackId: string | null = null): void {
    if (inkTrackId !== null) this.#ink = new InkTrack(inkTrackId, this.#clock);
    this.#store = this.#openStore();
    // Now and not at the start: writing so much at once takes a moment.
    this.#store
      .then((opened) => opened?.reserve(RESERVE_BYTES))
      .catch((error: unknown) => {
        console.error('no room could be set aside for the end of a take', error);
      });
    for (const source of sources) {
      const { trackId, kind } = source;
      const events: TrackEvents = {
        first: () => this.#tell({ is: 'first', trackId }),
        recovered: (recovery) => this.#tell({ is: 'recovered', kind, recovery }),
      };
      if (mediumOf(kind) === 'picture')
        this.#pictures.push(new PictureTrack(trackId, kind, this.#clock, events));
      else {
        const ear = kind === 'voice' ? this.#voiceEar() : null;
        this.#sounds.push(new SoundTrack(trackId, kind, this.#clock, events, ear));
      }
      this.read(source);
    }
  }

  /** Reads a source; a second one of a track takes the place of the first. */
  read({ trackId, kind, given }: SourceToRecord): void {
    const ended = (byItself: boolean | void) => {
      if (!this.#stopping && byItself !== false) this.#tell({ is: 'ended', kind });
    };
    const picture = this.#pictures.find((track) => track.trackId === trackId);
    const sound = this.#sounds.find((track) => track.trackId === trackId);
    const reading = picture ? picture.read(framesOf(given)) : sound?.read(samplesOf(given));
    void reading?.then(ended, () => ended());
  }

  readonly #onTrouble = (trouble: StoreTrouble, error: unknown): void => {
    console.error('the browser’s store', trouble, error);
    // Going on would put all of it at risk, with nowhere to keep it: the take ends with what there is.
    if (trouble !== 'broken' && !this.#storeFull) this.#tell({ is: 'store-full' });
    this.#storeFull ||= trouble !== 'broken';
    if (trouble !== 'ending') this.#storing = false;
  };

  /** Writes down how the take stands; its pieces are what counts. */
  async #note(change: Partial<KeptTake>): Promise<void> {
    if (!this.#kept) return;
    this.#kept = { ...this.#kept, ...change, recordedUs: this.#clock.elapsedAt(nowUs()) };
    if (!this.#storing) return;
    try {
      await (await this.#store)?.keep(this.#kept);
    } catch (error) {
      console.error('how the take stands can’t be noted', error);
    }
  }

  /** Begins the take: from here on everything is recorded, kept and sent. */
  async start(take: KeptTake, apiOrigin: string): Promise<void> {
    this.#kept = take;
    const opened = await this.#store;
    this.#storing = opened !== null;
    // Written down before its first piece: a crash from here on leaves a take, and not loose pieces.
    try {
      await opened?.keep(take);
    } catch (error) {
      this.#onTrouble('full', error);
    }
    for (const track of this.#tracks) {
      const line = new PieceLine(take.take.id, track.trackId, opened, this.#onTrouble);
      this.#lines.push(line);
      track.begin(line);
    }
    this.#clock.start(nowUs());
    this.#pictures.forEach((track) => track.repeat());
    const hasTime = easeOf(() => this.#dropped);
    const alive = apiOrigin + pathTo('heartbeat', { takeId: take.take.id });
    this.#timers = [
      setInterval(() => this.#tellFigures(), FIGURES_MS),
      setInterval(() => this.#pictures.forEach((track) => track.repeat()), REPEAT_MS),
      setInterval(() => void this.#ink?.flush(), INK_PIECE_MS),
      setInterval(() => void this.#note({}), KEEP_MS),
      setInterval(() => {
        // A take that isn't heard of is taken as cut short; failing to reach the server is told by the lines.
        const atEase = hasTime() && !this.#unmade;
        fetch(alive, {
          method: 'POST',
          headers: { 'Content-Type': 'application/json' },
          body: JSON.stringify({ atEase }),
        }).catch(() => undefined);
      }, ALIVE_MS),
    ];
    this.#sending = this.#send(take, apiOrigin);
    // What can't be sent is kept: it is told at the stop, and doesn't end the recording.
    this.#sending.catch((error: unknown) => console.error('sending', error));
  }

  async #send({ lessonId, take }: KeptTake, apiOrigin: string): Promise<void> {
    const made = await makeTake(apiOrigin, lessonId, take, (why) => {
      this.#unmadeWhy = why;
    });
    if (!made) throw new Error('the server does not take this take');
    this.#unmade = false;
    this.#senders.push(
      ...this.#lines.map((line) => new TrackSender(line.trackId, apiOrigin, line)),
    );
    await Promise.all(this.#senders.map((sender) => sender.sent));
  }

  /** Ends the take. @throws what kept it from being sent, where nothing else keeps it */
  async stop(): Promise<void> {
    this.#stopping = true;
    const durationUs = this.#clock.elapsedAt(nowUs());
    this.#clock.pause(nowUs());
    const finished = await Promise.allSettled(this.#tracks.map((track) => track.finish()));
    for (const result of finished) {
      // What had been encoded is safe; the rest of the take is worth more than a stop.
      if (result.status === 'rejected') console.error('a track ended early', result.reason);
    }
    await this.#note({ stopped: true });
    this.tellLast(LOOK_BACK_SECONDS);
    const inStore = this.#storing || this.#lines.every((line) => line.safe);
    const waited = new Promise<'waited'>((resolve) => {
      // Without a store there is no background to send it in: then it is waited for, however long.
      if (inStore) setTimeout(() => resolve('waited'), PATIENCE_MS);
    });
    const outcome = await Promise.race([this.#sending.then(() => 'sent' as const), waited]).catch(
      (error: unknown) => {
        if (inStore) return 'waited' as const;
        throw error;
      },
    );
    this.#tellFigures();
    this.#timers.forEach(clearInterval);
    this.#senders.forEach((sender) => sender.stop());
    const packets = Object.fromEntries(this.#tracks.map((track) => [track.kind, track.packets]));
    this.#tell({ is: outcome === 'sent' ? 'all-sent' : 'kept-here', durationUs, packets });
  }

  /** Tells the sound of the last seconds. */
  tellLast(seconds: number): void {
    const atUs = this.#clock.elapsedAt(nowUs());
    const sound = this.#memory.between(Math.max(0, atUs - seconds * 1e6), atUs);
    this.#tell({ is: 'last-seconds', last: { sound, levels: this.#memory.levels(), atUs } }, [
      sound.samples.buffer,
    ]);
  }

  /** Takes in what was written, with times of the common clock. */
  write(records: readonly InkRecord[]): void {
    this.#ink?.write(records);
  }

  pause(): void {
    this.#clock.pause(nowUs());
  }

  resume(): void {
    this.#clock.resume(nowUs());
  }
}
