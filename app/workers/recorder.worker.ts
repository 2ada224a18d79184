/**
 * Records: takes frames and samples from the page's devices, puts them on one clock, encodes them, keeps
 * them in the browser and sends them off piece by piece. Here, and not on the page, because a hidden tab's
 * timers stand still and a busy page must not drop frames.
 */
import type { ToRecorder } from '../capture/recorder-messages';
import { TakeRecorder } from './recorder/take-recorder';

/** Time in which every source shows how it stands to the common clock. */
const INGEST_MS = 1_200;

const scope = self as unknown as DedicatedWorkerGlobalScope;
const take = new TakeRecorder((message, transfer = []) => scope.postMessage(message, transfer));

const broke = (error: unknown) =>
  scope.postMessage({ is: 'broke', problem: 'server-unreachable', detail: String(error) });

scope.onmessage = ({ data }: MessageEvent<ToRecorder>) => {
  switch (data.do) {
    case 'open':
      take.open(data.sources, data.inkTrackId);
      setTimeout(() => scope.postMessage({ is: 'ready' }), INGEST_MS);
      return;
    case 'start':
      void take.start(data.kept, data.apiOrigin).catch(broke);
      return;
    case 'replace':
      return take.read(data.source);
    case 'write':
      return take.write(data.records);
    case 'pause':
      return take.pause();
    case 'resume':
      return take.resume();
    case 'stop':
      void take.stop().catch(broke);
      return;
    case 'look-back':
      return take.tellLast(data.seconds);
  }
};
