import { NONE, PRACTICE, type Device } from '../../capture/devices';
import type { Chosen } from './use-sources';

/** What is to be shown, as it would be said. */
export const shownWords = ({ source, screen, screenSound, paper, opens }: Chosen): string => {
  if (source === 'board' && opens === 'materials') return 'Materials: slides, pages, pictures';
  if (source === 'board') return `The board, ${paper.shade} and ${paper.ruling}`;
  if (source === 'camera') return 'The camera alone';
  if (source === 'sound') return 'Sound alone, no picture';
  const what = screen === PRACTICE ? 'The practice screen' : 'A screen, a window or a tab';
  return screenSound ? `${what}, with the computer’s sound` : what;
};

interface Named {
  readonly practice: string;
  readonly none: string;
  readonly any: string;
}
const CAMERA: Named = { practice: 'practice teacher', none: 'no camera', any: 'your camera' };
const MICROPHONE: Named = {
  practice: 'practice voice',
  none: 'no microphone',
  any: 'your microphone',
};

const deviceWords = (id: string, known: readonly Device[], last: string, words: Named): string => {
  if (id === PRACTICE) return words.practice;
  if (id === NONE) return words.none;
  const device = known.find((one) => one.id === id);
  if (device) return device.label;
  return id === '' ? words.any : `${last || words.any} (not here)`;
};

/** With what it is recorded, as it would be said. */
export const withWords = (
  chosen: Chosen,
  devices: { readonly cameras: readonly Device[]; readonly microphones: readonly Device[] },
): string => {
  const camera = deviceWords(chosen.camera, devices.cameras, chosen.cameraName, CAMERA);
  const voice = deviceWords(
    chosen.microphone,
    devices.microphones,
    chosen.microphoneName,
    MICROPHONE,
  );
  const pen = chosen.source === 'board' && chosen.pen === PRACTICE ? ['practice pen'] : [];
  const all = chosen.source === 'sound' ? [voice] : [camera, voice, ...pen];
  const line = all.join(' · ');
  return line.charAt(0).toLocaleUpperCase() + line.slice(1);
};

/** How it begins, as it would be said. */
export const howWords = ({ countIn, ticks }: Chosen): string =>
  countIn === 0
    ? 'Begins at once'
    : `Counts ${countIn} s in, ${ticks ? 'with soft ticks' : 'silently'}`;
