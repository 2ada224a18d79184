import { FLOOR_DBFS, levelOf, loudest, type Level } from '@under-chalk/core/sound/level';

const EVERY_MS = 66;
const HELD = 30;

/**
 * Listens to a microphone before anything is recorded.
 *
 * @param onLevel told fifteen times a second: what is heard now, and the loudest of two seconds
 * @returns ends it
 */
export const watchLevel = (
  stream: MediaStream,
  onLevel: (level: { now: Level; held: Level }) => void,
): (() => void) => {
  const audio = new AudioContext();
  const ear = new AnalyserNode(audio, { fftSize: 4096 });
  const source = audio.createMediaStreamSource(stream);
  source.connect(ear);
  const samples = new Float32Array(ear.fftSize);
  let recent: Level[] = [{ rmsDbfs: FLOOR_DBFS, peakDbfs: FLOOR_DBFS }];
  void audio.resume();
  const timer = setInterval(() => {
    ear.getFloatTimeDomainData(samples);
    const now = levelOf(samples);
    recent = [...recent, now].slice(-HELD);
    onLevel({ now, held: loudest(recent) });
  }, EVERY_MS);
  return () => {
    clearInterval(timer);
    source.disconnect();
    void audio.close();
  };
};
