import { useCallback, useEffect, useRef, useState } from 'react';
import type { Paper } from '@under-chalk/core/ink/pen';
import type { TakeSource } from '@under-chalk/core/lesson/take';
import { FLOOR_DBFS, type Level } from '@under-chalk/core/sound/level';
import { listen, listenFrom, type VoiceCheck } from '@under-chalk/core/sound/voice-check';
import {
  listDevices,
  NONE,
  openCamera,
  openMicrophone,
  openScreen,
  PRACTICE,
  type Device,
} from '../../capture/devices';
import { watchLevel } from '../../capture/level-of-stream';
import { PracticeDevices } from '../../capture/practice/practice-devices';
import type { TracksToRecord } from '../../capture/recorder';
import { codeOf } from '../../data/client';
import { LiveValue, type Watched } from '../../data/live-value';

/** What is to be recorded, as chosen: ids of devices, `practice`, or `none`. */
export interface Chosen {
  readonly source: Exclude<TakeSource, 'film'>;
  /** For a screen: the real one or the practice one. */
  readonly screen: 'real' | typeof PRACTICE;
  readonly screenSound: boolean;
  /** For a board: what is opened on it first. */
  readonly opens: 'board' | 'materials';
  /** What the board's pages look like. */
  readonly paper: Paper;
  readonly camera: string;
  readonly microphone: string;
  /** Names of the chosen devices when they were last seen, so that one that is gone can be named. */
  readonly cameraName: string;
  readonly microphoneName: string;
  /** Who writes on the board: the teacher's own hand, or the practice one. */
  readonly pen: 'own' | typeof PRACTICE;
  /** Seconds counted before the start, and whether each is heard. */
  readonly countIn: 0 | 3 | 5 | 10;
  readonly ticks: boolean;
}

/** Whether the picture is shared by what is shown and a camera, if there is one. */
export const sharesPicture = ({ source }: Pick<Chosen, 'source'>): boolean =>
  source === 'screen' || source === 'board';

/** What the microphone hears, fifteen times a second. */
export interface Heard {
  /** What is heard now, and the loudest of the last seconds. */
  readonly level: { readonly now: Level; readonly held: Level };
  /** What has been heard since the microphone was opened, or since it was asked to listen again. */
  readonly check: VoiceCheck;
}

export interface Sources {
  readonly devices: {
    readonly cameras: readonly Device[];
    readonly microphones: readonly Device[];
  };
  readonly screen: MediaStream | null;
  /** What kind of surface is captured (Screen Capture §5.3); undefined where the browser doesn't tell. */
  readonly surfaceKind: string | undefined;
  readonly camera: MediaStream | null;
  readonly voice: MediaStream | null;
  /** Codes of what could not be opened. */
  readonly problems: Readonly<Partial<Record<'screen' | 'camera' | 'microphone', string>>>;
  readonly heard: Watched<Heard>;
  readonly listenAgain: () => void;
  /** Opens the chosen screen; only after a press, as browsers ask for. */
  readonly chooseScreen: () => Promise<boolean>;
  /** Tries anew what was refused. */
  readonly retry: () => void;
  readonly clap: (() => void) | null;
}

const nowUs = () => performance.now() * 1000;
const SILENT = { rmsDbfs: FLOOR_DBFS, peakDbfs: FLOOR_DBFS };
const NOT_HEARD: Heard = { level: { now: SILENT, held: SILENT }, check: listenFrom(0) };

const stopAll = (stream: MediaStream | null) =>
  stream?.getTracks().forEach((track) => track.stop());

/** Tracks of the opened sources, by what they become. A camera is the picture itself when it is alone. */
export const tracksOf = (chosen: Chosen, sources: Sources): TracksToRecord => {
  const surface = chosen.source === 'screen' ? sources.screen?.getVideoTracks()[0] : undefined;
  const camera = chosen.source === 'sound' ? undefined : sources.camera?.getVideoTracks()[0];
  const voice = sources.voice?.getAudioTracks()[0];
  const computer = chosen.source === 'screen' ? sources.screen?.getAudioTracks()[0] : undefined;
  return {
    ...(surface ? { surface } : {}),
    ...(camera ? { camera } : {}),
    ...(voice ? { voice } : {}),
    ...(computer ? { 'computer-sound': computer } : {}),
  };
};

const CAMERA = { is: 'camera', open: openCamera } as const;
const MICROPHONE = { is: 'microphone', open: openMicrophone } as const;

/** Keeps the chosen device open, or its practice one; opens it anew with each try. */
const useDevice = (
  choice: string,
  tries: number,
  device: typeof CAMERA | typeof MICROPHONE,
  on: {
    readonly practice: () => Promise<MediaStream>;
    readonly told: (of: 'camera' | 'microphone', problem: string | null) => void;
  },
): MediaStream | null => {
  const [stream, setStream] = useState<MediaStream | null>(null);
  const { practice, told } = on;
  useEffect(() => {
    if (choice === NONE) {
      told(device.is, null);
      return undefined;
    }
    let gone = false;
    let live: MediaStream | null = null;
    // The practice devices live on while they aren't chosen; real ones are given back at once.
    const letGo = (given: MediaStream | null) => {
      if (choice !== PRACTICE) stopAll(given);
    };
    (choice === PRACTICE ? practice() : device.open(choice)).then(
      (given) => {
        if (gone) return letGo(given);
        live = given;
        setStream(given);
        told(device.is, null);
      },
      (error: unknown) => {
        if (!gone) told(device.is, codeOf(error));
      },
    );
    return () => {
      gone = true;
      letGo(live);
      setStream(null);
    };
  }, [choice, tries, device, practice, told]);
  return stream;
};

/** Opens what is chosen, closes what no longer is, and listens to the microphone. */
export const useSources = (chosen: Chosen): Sources => {
  const [devices, setDevices] = useState<Sources['devices']>({ cameras: [], microphones: [] });
  const [realScreen, setRealScreen] = useState<MediaStream | null>(null);
  const [practiceScreen, setPracticeScreen] = useState<MediaStream | null>(null);
  const [problems, setProblems] = useState<Sources['problems']>({});
  const [heard] = useState(() => new LiveValue(NOT_HEARD));
  const [tries, setTries] = useState(0);
  const practice = useRef<PracticeDevices | null>(null);

  const practiceDevices = useCallback(() => {
    practice.current ??= new PracticeDevices();
    return practice.current;
  }, []);
  useEffect(
    () => () => {
      practice.current?.close();
      practice.current = null;
    },
    [],
  );

  const problem = useCallback((of: keyof Sources['problems'], code: string | null) => {
    setProblems((before) => {
      const { [of]: _, ...others } = before;
      return code === null ? others : { ...others, [of]: code };
    });
  }, []);

  const refresh = useCallback(() => void listDevices().then(setDevices), []);
  useEffect(() => {
    refresh();
    navigator.mediaDevices?.addEventListener('devicechange', refresh);
    return () => navigator.mediaDevices?.removeEventListener('devicechange', refresh);
  }, [refresh]);

  const opened = useCallback(
    (of: 'camera' | 'microphone', problemCode: string | null) => {
      problem(of, problemCode);
      refresh();
    },
    [problem, refresh],
  );
  const camera = useDevice(chosen.source === 'sound' ? NONE : chosen.camera, tries, CAMERA, {
    practice: useCallback(async () => practiceDevices().camera(), [practiceDevices]),
    told: opened,
  });
  const voice = useDevice(chosen.microphone, tries, MICROPHONE, {
    practice: useCallback(() => practiceDevices().voice(), [practiceDevices]),
    told: opened,
  });

  const listenAgain = useCallback(
    () => heard.set({ ...heard.view(), check: listenFrom(nowUs()) }),
    [heard],
  );
  useEffect(() => {
    if (!voice) return undefined;
    listenAgain();
    const end = watchLevel(voice, (level) =>
      heard.set({ level, check: listen(heard.view().check, level.now, nowUs()) }),
    );
    return () => {
      end();
      heard.set(NOT_HEARD);
    };
  }, [voice, heard, listenAgain]);

  // The practice screen is there at once; a real one waits for a press.
  const { screenSound } = chosen;
  const showsPractice = chosen.source === 'screen' && chosen.screen === PRACTICE;
  useEffect(() => {
    setPracticeScreen(showsPractice ? practiceDevices().screen(screenSound) : null);
    if (showsPractice) setRealScreen(null);
    problem('screen', null);
  }, [showsPractice, screenSound, practiceDevices, problem]);
  useEffect(() => {
    const [track] = realScreen?.getVideoTracks() ?? [];
    const ended = () => {
      setRealScreen(null);
      problem('screen', 'screen-ended');
    };
    track?.addEventListener('ended', ended);
    return () => {
      track?.removeEventListener('ended', ended);
      stopAll(realScreen);
    };
  }, [realScreen, problem]);
  const screen = showsPractice ? practiceScreen : realScreen;

  const refused = useRef(false);
  useEffect(() => {
    refused.current = Object.keys(problems).length > 0;
  }, [problems]);
  // A permission that is given in the browser's own menu is used at once, without a press.
  useEffect(() => {
    let gone = false;
    const watched: PermissionStatus[] = [];
    const given = () => {
      // What is open already stays as it is.
      if (refused.current && watched.some((status) => status.state === 'granted')) {
        setTries((before) => before + 1);
      }
    };
    for (const name of ['camera', 'microphone'] as const) {
      navigator.permissions?.query({ name: name as PermissionName }).then(
        (status) => {
          if (gone) return;
          watched.push(status);
          status.addEventListener('change', given);
        },
        () => undefined, // This browser does not tell; the button tries again.
      );
    }
    return () => {
      gone = true;
      watched.forEach((status) => status.removeEventListener('change', given));
    };
  }, []);

  const chooseScreen = useCallback(async () => {
    try {
      setRealScreen(await openScreen(chosen.screenSound));
      problem('screen', null);
      return true;
    } catch (error) {
      problem('screen', codeOf(error));
      return false;
    }
  }, [chosen.screenSound, problem]);

  const practising = chosen.microphone === PRACTICE || chosen.camera === PRACTICE || showsPractice;
  return {
    devices,
    screen,
    surfaceKind: screen?.getVideoTracks()[0]?.getSettings().displaySurface,
    camera,
    voice,
    problems,
    heard,
    listenAgain,
    chooseScreen,
    retry: () => setTries((before) => before + 1),
    clap: practising ? () => practiceDevices().clap() : null,
  };
};
