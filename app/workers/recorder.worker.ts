/**
 * Records: takes frames and samples from the page's devices, puts them on one clock, encodes them and
 * sends them off piece by piece. Here, and not on the page, because a hidden tab's timers stand still
 * and a busy page must not drop frames.
 */
import { pathTo } from '@under-chalk/core/contract/api';
import { isPicture } from '@under-chalk/core/lesson/take';
import { TakeClock } from '@under-chalk/core/time/take-clock';
import type { Level } from '@under-chalk/core/sound/level';
import type { FromRecorder, SourceToRecord, ToRecorder } from '../capture/recorder-messages';
import { nowUs } from './recorder/now';
import { PictureTrack } from './recorder/picture-track';
import { PieceLine } from './recorder/piece-line';
import { SoundTrack } from './recorder/sound-track';

const scope = self as unknown as DedicatedWorkerGlobalScope;
const tell = (message: FromRecorder) => scope.postMessage(message);
const clock = new TakeClock();
const lines: PieceLine[] = [];
const pictures: PictureTrack[] = [];
const sounds: SoundTrack[] = [];

const FIGURES_MS = 200;
const REPEAT_MS = 250;
const ALIVE_MS = 5_000;
/** Levels come a hundred times a second; the page draws fifteen. */
const LEVEL_MS = 66;

let timers: ReturnType<typeof setInterval>[] = [];
let stopping = false;

const tellFigures = () =>
  tell({
    is: 'figures',
    figures: {
      elapsedUs: clock.elapsedAt(nowUs()),
      unsentBytes: lines.reduce((sum, line) => sum + line.unsentBytes, 0),
      offline: lines.some((line) => line.offline),
      droppedFrames: pictures.reduce((sum, track) => sum + track.dropped, 0),
      frames: pictures.reduce((sum, track) => sum + track.frames, 0),
    },
  });

const tellLevel = () => {
  let last = 0;
  return (level: Level) => {
    const now = performance.now();
    if (now - last < LEVEL_MS) return;
    last = now;
    tell({ is: 'level', level });
  };
};

const open = (sources: readonly SourceToRecord[]) => {
  for (const { trackId, kind, readable } of sources) {
    const onFirst = () => tell({ is: 'first', trackId });
    const ended = () => {
      if (!stopping) tell({ is: 'ended', kind });
    };
    if (isPicture(kind)) {
      const track = new PictureTrack(trackId, kind, clock, onFirst);
      pictures.push(track);
      void track.read(readable as ReadableStream<VideoFrame>).then(ended, ended);
    } else {
      const track = new SoundTrack(
        trackId,
        kind,
        clock,
        onFirst,
        kind === 'voice' ? tellLevel() : null,
      );
      sounds.push(track);
      void track.read(readable as ReadableStream<AudioData>).then(ended, ended);
    }
  }
};

/** Time in which every source shows how it stands to the common clock, ms. */
const SETTLE_MS = 1_200;

const start = (takeId: string, apiOrigin: string) => {
  for (const track of [...pictures, ...sounds]) {
    const line = new PieceLine(track.trackId, apiOrigin);
    lines.push(line);
    track.begin(line);
    line.sent.catch((error: unknown) =>
      tell({ is: 'broke', problem: 'server-unreachable', detail: String(error) }),
    );
  }
  const alive = apiOrigin + pathTo('takeAlive', { takeId });
  timers = [
    setInterval(tellFigures, FIGURES_MS),
    setInterval(() => pictures.forEach((track) => track.repeat()), REPEAT_MS),
    setInterval(() => {
      // A take that isn't heard of is taken as cut short; failing to reach the server is told by the lines.
      fetch(alive, { method: 'POST' }).catch(() => undefined);
    }, ALIVE_MS),
  ];
  clock.start(nowUs());
  pictures.forEach((track) => track.repeat());
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
  await Promise.all(lines.map((line) => line.sent));
  tellFigures();
  timers.forEach(clearInterval);
  tell({ is: 'all-sent', durationUs });
};

scope.onmessage = ({ data }: MessageEvent<ToRecorder>) => {
  switch (data.do) {
    case 'open':
      open(data.sources);
      setTimeout(() => tell({ is: 'ready' }), SETTLE_MS);
      return;
    case 'start':
      return start(data.takeId, data.apiOrigin);
    case 'pause':
      return clock.pause(nowUs());
    case 'resume':
      return clock.resume(nowUs());
    case 'stop':
      void stop().catch((error: unknown) =>
        tell({ is: 'broke', problem: 'server-unreachable', detail: String(error) }),
      );
  }
};
