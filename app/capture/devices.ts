import { AppError, type ErrorCode } from '@under-chalk/core/errors/errors';
import { canReadTracks } from './reading/read-track';

export interface Device {
  readonly id: string;
  readonly label: string;
}

/** Instead of a device's id: the practice one that ships with the app, or none. */
export const PRACTICE = 'practice';
export const NONE = 'none';

/** Cameras and microphones the browser knows. Names are only told once one has been allowed. */
export const listDevices = async (): Promise<{ cameras: Device[]; microphones: Device[] }> => {
  if (!('mediaDevices' in navigator)) return { cameras: [], microphones: [] };
  const all = await navigator.mediaDevices.enumerateDevices();
  const of = (kind: MediaDeviceKind, name: string): Device[] =>
    all
      .filter((device) => device.kind === kind)
      .map((device, index) => ({
        id: device.deviceId,
        label: device.label || `${name} ${index + 1}`,
      }));
  return { cameras: of('videoinput', 'Camera'), microphones: of('audioinput', 'Microphone') };
};

type Wanted = 'camera' | 'microphone' | 'screen';

/** What a failed request for a device means, by the names of the Media Capture specification (§10.3). */
export const problemWith = (wanted: Wanted, error: unknown): ErrorCode => {
  const name = error instanceof DOMException ? error.name : '';
  if (wanted === 'screen') return 'screen-refused';
  if (name === 'NotAllowedError' || name === 'SecurityError') return `${wanted}-refused`;
  if (name === 'NotReadableError' || name === 'AbortError') return 'device-busy';
  return `${wanted}-missing`;
};

const request = async (wanted: Wanted, ask: () => Promise<MediaStream>): Promise<MediaStream> => {
  try {
    return await ask();
  } catch (error) {
    throw new AppError(problemWith(wanted, error), String(error), { cause: error });
  }
};

const exactly = (id: string) => (id ? { deviceId: { exact: id } } : {});

/** @throws AppError with the sentence for what went wrong */
export const openCamera = (id: string): Promise<MediaStream> =>
  request('camera', () =>
    navigator.mediaDevices.getUserMedia({
      video: {
        ...exactly(id),
        width: { ideal: 1280 },
        height: { ideal: 720 },
        frameRate: { ideal: 30 },
      },
    }),
  );

/** @throws AppError */
export const openMicrophone = (id: string): Promise<MediaStream> =>
  request('microphone', () =>
    navigator.mediaDevices.getUserMedia({
      // Processing meant for calls pumps and gates a lesson's voice; levelling is done afterwards.
      audio: {
        ...exactly(id),
        echoCancellation: false,
        noiseSuppression: false,
        autoGainControl: false,
        channelCount: { ideal: 1 },
      },
    }),
  );

export const canCaptureScreen = (): boolean =>
  'mediaDevices' in navigator && 'getDisplayMedia' in navigator.mediaDevices;

/** @throws AppError */
export const openScreen = (withSound: boolean): Promise<MediaStream> =>
  request('screen', () =>
    navigator.mediaDevices.getDisplayMedia({
      video: { frameRate: { ideal: 30, max: 30 } },
      audio: withSound,
    }),
  );

/** Whether this browser has what recording needs. */
export const canRecord = (): boolean =>
  canReadTracks() && typeof VideoEncoder !== 'undefined' && typeof AudioEncoder !== 'undefined';
