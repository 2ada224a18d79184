/** What is in films and footage, measured with ffmpeg. */
import { execFileSync, spawnSync } from 'node:child_process';
import { join } from 'node:path';

const MOST = 1 << 29;
/** Runs ffmpeg. @returns what it writes to `-` */
export const ffmpeg = (...args: string[]): Buffer =>
  execFileSync('ffmpeg', ['-hide_banner', '-loglevel', 'error', '-y', ...args], {
    maxBuffer: MOST,
    stdio: ['ignore', 'pipe', 'ignore'],
  });

/** Facts about a film from ffprobe. */
export const probe = (file: string) => {
  const json = execFileSync('ffprobe', [
    ...['-v', 'error', '-show_streams', '-show_format', '-of', 'json', file],
  ]);
  const { streams, format } = JSON.parse(json.toString()) as {
    streams: Record<string, string>[];
    format: { duration: string; tags?: Record<string, string> };
  };
  const video = streams.find((stream) => stream['codec_type'] === 'video');
  const audio = streams.find((stream) => stream['codec_type'] === 'audio');
  return { video, audio, seconds: Number(format.duration), tags: format.tags ?? {} };
};

/** How many encoded pictures, or blocks of sound, a file's first stream has. */
export const packetsIn = (file: string): number =>
  Number(
    execFileSync('ffprobe', [
      ...['-v', 'error', '-count_packets', '-select_streams', '0'],
      ...['-show_entries', 'stream=nb_read_packets', '-of', 'csv=p=0', file],
    ]).toString(),
  );

/** Samples of a film's sound, mono at 48 kHz. */
export const samplesOf = (file: string): Float32Array => {
  const pcm = ffmpeg(
    ...[
      '-copyts',
      '-i',
      file,
      '-vn',
      '-af',
      'aresample=48000:async=1:min_hard_comp=0.015:first_pts=0',
    ],
    ...['-ac', '1', '-f', 'f32le', 'pipe:1'],
  );
  return new Float32Array(pcm.buffer, pcm.byteOffset, Math.floor(pcm.length / 4));
};

const BLOCK = 480;

/** Strength of a tone in each 10 ms of a film's sound (Goertzel), 0 to about 1. */
const toneLine = (samples: Float32Array, hertz: number): number[] => {
  const turn = 2 * Math.cos((2 * Math.PI * hertz) / 48_000);
  const line: number[] = [];
  for (let at = 0; at + BLOCK <= samples.length; at += BLOCK) {
    let [one, two] = [0, 0];
    for (let n = 0; n < BLOCK; n++) {
      const now = samples[at + n]! + turn * one - two;
      two = one;
      one = now;
    }
    line.push(Math.sqrt(Math.max(0, one * one + two * two - turn * one * two)) / (BLOCK / 2));
  }
  return line;
};

/** Strength of a tone in each 10 ms of a film’s sound, 0 to about 1. */
export const tonesStrength = (file: string, hertz: number): number[] =>
  toneLine(samplesOf(file), hertz);

/** Times in seconds at which a tone begins. */
export const tonesAt = (file: string, hertz: number, least = 0.12): number[] => {
  const line = tonesStrength(file, hertz);
  return line.flatMap((level, block) =>
    level > least &&
    (line[block - 1] ?? 0) <= least &&
    Math.max(...line.slice(Math.max(0, block - 20), block), 0) <= least
      ? [block * 0.01]
      : [],
  );
};

/** Times in seconds at which the clapper clicks: a loud square wave of 2 kHz. */
export const clicksAt = (file: string): number[] => tonesAt(file, 2_000, 0.45);

/** Times in seconds at which a part of the picture turns all white. The part is in fractions of the frame. */
export const flashesAt = (file: string, part = { x: 0, y: 0, width: 1, height: 1 }): number[] => {
  const { x, y, width, height } = part;
  const graph = `crop=iw*${width}:ih*${height}:iw*${x}:ih*${y},signalstats,metadata=print:key=lavfi.signalstats.YMIN:file=-`;
  const text = ffmpeg('-copyts', '-i', file, '-an', '-vf', graph, '-f', 'null', '-').toString();
  const found: number[] = [];
  let white = false;
  let time = 0;
  for (const line of text.split('\n')) {
    const at = /pts_time:([\d.]+)/.exec(line);
    if (at) time = Number(at[1]);
    const least = /YMIN=(\d+)/.exec(line);
    if (!least) continue;
    const now = Number(least[1]) > 200;
    if (now && !white) found.push(time);
    white = now;
  }
  return found;
};

/**
 * How much later than its click each flash is seen, s. The practice devices make both at one instant; a busy machine
 * shows a flash late, never early. So the least of them tells how picture and sound lie, and the others how busy
 * it was.
 */
export const seenAfterHeard = (flashes: readonly number[], clicks: readonly number[]): number[] =>
  flashes.map((flash) =>
    clicks
      .map((click) => flash - click)
      .reduce((least, one) => (Math.abs(one) < Math.abs(least) ? one : least), Infinity),
  );

/** Likeness of two pictures of one size, 0 to 1 (ffmpeg's `ssim`). */
export const ssimOf = (one: string, other: string): number => {
  const graph = 'format=gray[a];[1:v]format=gray[b];[a][b]ssim=f=-';
  const told = ffmpeg('-i', one, '-i', other, '-lavfi', `[0:v]${graph}`, '-f', 'null', '-');
  return Number(/All:([\d.]+)/.exec(told.toString())?.[1]);
};

/** The mean colour of a part of one frame, RGB. @param seconds null: of a picture that is a file by itself */
export const colourAt = (
  file: string,
  seconds: number | null,
  part: { x: number; y: number; width: number; height: number },
): [number, number, number] => {
  const { x, y, width, height } = part;
  const pixel = ffmpeg(
    ...[...(seconds === null ? [] : ['-ss', String(seconds)]), '-i', file, '-frames:v', '1'],
    ...['-vf', `crop=iw*${width}:ih*${height}:iw*${x}:ih*${y},scale=1:1:flags=area,format=rgb24`],
    ...['-f', 'rawvideo', 'pipe:1'],
  );
  return [pixel[0]!, pixel[1]!, pixel[2]!];
};

/**
 * A voice for the fake microphone: 60 s of spoken sentences, with a tone of 1 kHz at 1, 3, 5 … seconds and
 * one of 1.5 kHz at 7, 17, 27 …
 */
export const makeVoice = (folder: string): string => {
  const out = join(folder, 'voice.wav');
  const spoken = join(folder, 'spoken.wav');
  const text = 'High water at Lantern Quay comes twice a day, a little later each time.';
  const flite = spawnSync('flite', ['-voice', 'rms', '-t', text, '-o', spoken]);
  const speech =
    flite.status === 0
      ? ['-stream_loop', '-1', '-i', spoken]
      : ['-f', 'lavfi', '-i', 'sine=frequency=220:sample_rate=16000'];
  const tone = (hertz: number, every: number, from: number) =>
    String.raw`if(between(mod(t-${from}\,${every})\,0\,0.15)*gte(t\,${from})\,0.6*sin(2*PI*${hertz}*t)\,0)`;
  ffmpeg(
    ...speech,
    ...['-f', 'lavfi', '-i', `aevalsrc=${tone(1000, 2, 1)}+${tone(1500, 10, 7)}:s=48000`],
    ...['-filter_complex', '[0:a]aresample=48000,volume=0.2[v];[v][1:a]amix=inputs=2:normalize=0'],
    ...['-t', '60', '-ac', '1', out],
  );
  return out;
};

/** A picture for the fake camera: plain red, with a moving bar so that it is seen to live. */
export const makeCamera = (folder: string): string => {
  const out = join(folder, 'camera.mjpeg');
  ffmpeg(
    ...['-f', 'lavfi', '-i', 'color=c=red:size=640x480:rate=20', '-f', 'lavfi'],
    ...['-i', 'color=c=blue:size=20x480:rate=20'],
    ...['-filter_complex', "[0][1]overlay=x='mod(t*200,620)':y=0", '-t', '10', '-q:v', '3', out],
  );
  return out;
};

/** A sound for the fake microphone: a minute of it, by ffmpeg's description. */
export const makeSound = (folder: string, description: string): string => {
  const out = join(folder, 'sound.wav');
  ffmpeg('-f', 'lavfi', '-i', description, '-t', '60', '-ar', '48000', '-ac', '1', out);
  return out;
};

/** Integrated loudness of a film’s sound (EBU R 128), LUFS. */
export const loudnessOf = (file: string): number => {
  const meter = 'ebur128=metadata=1,ametadata=mode=print:key=lavfi.r128.I:file=-';
  const told = ffmpeg('-i', file, '-map', '0:a:0', '-af', meter, '-f', 'null', '-').toString();
  return Number([...told.matchAll(/r128\.I=(\S+)/g)].at(-1)?.[1]);
};
