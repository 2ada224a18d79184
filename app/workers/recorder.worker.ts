/**
 * Records: takes frames and samples from the page's devices, puts them on one clock, encodes them, keeps
 * them in the browser and sends them off piece by piece. Here, and not on the page, because a hidden tab's
 * timers stand still and a busy page must not drop frames.
 */
import { pathTo } from '@under-chalk/core/contract/api';
import { isPicture } from '@under-chalk/core/lesson/take';
import { levelOf } from '@under-chalk/core/sound/level';
import { VoiceMemory } from '@under-chalk/core/sound/voice-memory';
import { TakeClock } from '@under-chalk/core/time/take-clock';
import type { FromRecorder, SourceToRecord, ToRecorder } from '../capture/recorder-messages';
import { makeTake } from '../capture/sending/make-take';
import { TrackSender, type Halted } from '../capture/sending/track-sender';
import { openStore } from '../capture/store/open-store';
import type { KeptTake, PieceStore } from '../capture/store/piece-store';
import { framesOf, samplesOf } from './recorder/given';
import { nowUs } from './recorder/now';
import { PictureTrack } from './recorder/picture-track';
import { PieceLine, type StoreTrouble } from './recorder/piece-line';
import { SoundTrack, type Ear } from './recorder/sound-track';
import type { TrackEvents } from './recorder/track-events';

const scope = self as unknown as DedicatedWorkerGlobalScope;
const tell = (message: FromRecorder, transfer: Transferable[] = []) =>
  scope.postMessage(message, transfer);
const clock = new TakeClock();
const memory = new VoiceMemory();
const lines: PieceLine[] = [];
const senders: TrackSender[] = [];
const pictures: PictureTrack[] = [];
const sounds: SoundTrack[] = [];

const FIGURES_MS = 200;
const REPEAT_MS = 250;
const ALIVE_MS = 5_000;
/** How often the store is told how long the take is by now. */
const KEEP_MS = 2_000;
/** Set aside in the browser's store for the end of a take, bytes: what the largest one writes in four seconds. */
const RESERVE_BYTES = 12_000_000;
/** Levels come a hundred times a second; the page draws fifteen. */
const LEVEL_MS = 66;
/** Time in which every source shows how it stands to the common clock. */
const SETTLE_MS = 1_200;
/** How much can be looked back on after the stop. */
const LOOK_BACK_SECONDS = 10;
/** The last of it is waited for this long after the stop; then it is sent on in the background. */
const PATIENCE_MS = 4_000;

let store: Promise<PieceStore | null>;
let kept: KeptTake | null = null;
/** The store keeps what is recorded. */
let storing = true;
/** The page has been told that the browser has no more room. */
let storeFull = false;
/** The take is not on the server yet. */
let unmade = true;
let unmadeWhy: Halted | null = null;
let timers: ReturnType<typeof setInterval>[] = [];
let stopping = false;

const tellFigures = () =>
  tell({
    is: 'figures',
    figures: {
      elapsedUs: clock.elapsedAt(nowUs()),
      unsentBytes: lines.reduce((sum, line) => sum + line.unsentBytes, 0),
      halted: senders.find((sender) => sender.halted)?.halted ?? (unmade ? unmadeWhy : null),
      keptHere: storing,
      droppedFrames: pictures.reduce((sum, track) => sum + track.dropped, 0),
      frames: pictures.reduce((sum, track) => sum + track.frames, 0),
    },
  });

const voiceEar = (): Ear => {
  let last = 0;
  return {
    sense(samples) {
      const now = performance.now();
      if (now - last < LEVEL_MS) return;
      last = now;
      tell({ is: 'level', level: levelOf(samples) });
    },
    hear: (samples, takeUs, sampleRate) => memory.hear(samples, takeUs, sampleRate),
  };
};

const open = (sources: readonly SourceToRecord[]) => {
  store = openStore();
  // Now and not at the start: writing so much at once takes a moment.
  store
    .then((opened) => opened?.reserve(RESERVE_BYTES))
    .catch((error: unknown) => {
      console.error('no room could be set aside for the end of a take', error);
    });
  for (const source of sources) {
    const { trackId, kind } = source;
    const events: TrackEvents = {
      first: () => tell({ is: 'first', trackId }),
      recovered: (recovery) => tell({ is: 'recovered', kind, recovery }),
    };
    if (isPicture(kind)) pictures.push(new PictureTrack(trackId, kind, clock, events));
    else {
      const ear = kind === 'voice' ? voiceEar() : null;
      sounds.push(new SoundTrack(trackId, kind, clock, events, ear));
    }
    read(source);
  }
};

const read = ({ trackId, kind, given }: SourceToRecord) => {
  const ended = (byItself: boolean | void) => {
    if (!stopping && byItself !== false) tell({ is: 'ended', kind });
  };
  const picture = pictures.find((track) => track.trackId === trackId);
  const sound = sounds.find((track) => track.trackId === trackId);
  const reading = picture ? picture.read(framesOf(given)) : sound?.read(samplesOf(given));
  void reading?.then(ended, () => ended());
};

const onTrouble = (trouble: StoreTrouble, error: unknown) => {
  console.error('the browser’s store', trouble, error);
  // Going on would put all of it at risk, with nowhere to keep it: the take ends with what there is.
  if (trouble !== 'broken' && !storeFull) tell({ is: 'store-full' });
  storeFull ||= trouble !== 'broken';
  if (trouble !== 'ending') storing = false;
};

/** Writes down how the take stands; its pieces are what counts. */
const note = async (change: Partial<KeptTake>) => {
  if (!kept) return;
  kept = { ...kept, ...change, recordedUs: clock.elapsedAt(nowUs()) };
  if (!storing) return;
  try {
    await (await store)?.keep(kept);
  } catch (error) {
    console.error('how the take stands can’t be noted', error);
  }
};

const start = async (take: KeptTake, apiOrigin: string) => {
  kept = take;
  const opened = await store;
  storing = opened !== null;
  // Written down before its first piece: a crash from here on leaves a take, and not loose pieces.
  try {
    await opened?.keep(take);
  } catch (error) {
    onTrouble('full', error);
  }
  for (const track of [...pictures, ...sounds]) {
    const line = new PieceLine(take.take.id, track.trackId, opened, onTrouble);
    lines.push(line);
    track.begin(line);
  }
  clock.start(nowUs());
  pictures.forEach((track) => track.repeat());
  const alive = apiOrigin + pathTo('takeAlive', { takeId: take.take.id });
  timers = [
    setInterval(tellFigures, FIGURES_MS),
    setInterval(() => pictures.forEach((track) => track.repeat()), REPEAT_MS),
    setInterval(() => void note({}), KEEP_MS),
    setInterval(() => {
      // A take that isn't heard of is taken as cut short; failing to reach the server is told by the lines.
      fetch(alive, { method: 'POST' }).catch(() => undefined);
    }, ALIVE_MS),
  ];
  sending = send(take, apiOrigin);
  // What can't be sent is kept: it is told at the stop, and doesn't end the recording.
  sending.catch((error: unknown) => console.error('sending', error));
};

/** Settles when the server has every byte. */
let sending: Promise<void> = Promise.resolve();

const send = async ({ lessonId, take }: KeptTake, apiOrigin: string) => {
  const made = await makeTake(apiOrigin, lessonId, take, (why) => {
    unmadeWhy = why;
  });
  if (!made) throw new Error('the server does not take this take');
  unmade = false;
  senders.push(...lines.map((line) => new TrackSender(line.trackId, apiOrigin, line)));
  await Promise.all(senders.map((sender) => sender.sent));
};

const stop = async () => {
  stopping = true;
  const durationUs = clock.elapsedAt(nowUs());
  clock.pause(nowUs());
  const finished = await Promise.allSettled(
    [...pictures, ...sounds].map((track) => track.finish()),
  );
  for (const result of finished) {
    // What had been encoded is safe; the rest of the take is worth more than a stop.
    if (result.status === 'rejected') console.error('a track ended early', result.reason);
  }
  await note({ stopped: true });
  tellLast(LOOK_BACK_SECONDS);
  const inStore = storing || lines.every((line) => line.safe);
  const waited = new Promise<'waited'>((resolve) => {
    // Without a store there is no background to send it in: then it is waited for, however long.
    if (inStore) setTimeout(() => resolve('waited'), PATIENCE_MS);
  });
  const outcome = await Promise.race([sending.then(() => 'sent' as const), waited]).catch(
    (error: unknown) => {
      if (inStore) return 'waited' as const;
      throw error;
    },
  );
  tellFigures();
  timers.forEach(clearInterval);
  senders.forEach((sender) => sender.stop());
  const packets = Object.fromEntries(
    [...pictures, ...sounds].map((track) => [track.kind, track.packets]),
  );
  tell({ is: outcome === 'sent' ? 'all-sent' : 'kept-here', durationUs, packets });
};

const tellLast = (seconds: number) => {
  const atUs = clock.elapsedAt(nowUs());
  const sound = memory.between(Math.max(0, atUs - seconds * 1e6), atUs);
  tell({ is: 'last-seconds', last: { sound, levels: memory.levels(), atUs } }, [
    sound.samples.buffer,
  ]);
};

const broke = (error: unknown) =>
  tell({ is: 'broke', problem: 'server-unreachable', detail: String(error) });

scope.onmessage = ({ data }: MessageEvent<ToRecorder>) => {
  switch (data.do) {
    case 'open':
      open(data.sources);
      setTimeout(() => tell({ is: 'ready' }), SETTLE_MS);
      return;
    case 'start':
      void start(data.kept, data.apiOrigin).catch(broke);
      return;
    case 'replace':
      return read(data.source);
    case 'pause':
      return clock.pause(nowUs());
    case 'resume':
      return clock.resume(nowUs());
    case 'stop':
      void stop().catch(broke);
      return;
    case 'look-back':
      return tellLast(data.seconds);
  }
};
