import type { Reading } from './reading';

/** Where the server gives the worklet: a file of its own, as `addModule` wants it. */
const WORKLET = '/worklets/sound-reader.js';

/** Reads a sound track through an AudioWorklet, which sends its samples straight to the other side. */
export const readSound = (track: MediaStreamTrack): Reading => {
  const audio = new AudioContext({ latencyHint: 'interactive' });
  const { port1: port, port2: other } = new MessageChannel();
  void audio.resume();
  const connect = async () => {
    await audio.audioWorklet.addModule(WORKLET);
    if (audio.state === 'closed') return;
    const node = new AudioWorkletNode(audio, 'sound-reader', { numberOfOutputs: 0 });
    node.port.postMessage(port, [port]);
    audio.createMediaStreamSource(new MediaStream([track])).connect(node);
  };
  // Without it no sample arrives, and the recorder never says that it records.
  connect().catch((error: unknown) => console.error('the sound can’t be read', error));
  return { given: { port: other }, transfer: [other], close: () => void audio.close() };
};
