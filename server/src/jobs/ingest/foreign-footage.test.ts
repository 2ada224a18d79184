import { filmOf } from '@under-chalk/core/film/film';
import { wholeTakes } from '@under-chalk/core/lesson/placement';
import type { Take } from '@under-chalk/core/lesson/take';
import { PieceCache, planFilm, renderFilm, run } from '@under-chalk/render';
import { EncodedPacketSink, FilePathSource, Input, MP4 } from 'mediabunny';
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  beeping,
  HEIGHT,
  PATCHES,
  readNumbered,
  WIDTH,
  writeNumbered,
} from '../../testing/numbered-film';
import { startTestServer, type TestServer } from '../../testing/test-server';

jest.setTimeout(120_000);

const SECONDS = 3;

/** A film as somebody else's program writes it. */
interface Kind {
  readonly name: string;
  readonly file: 'mov' | 'mp4' | 'mkv' | 'webm';
  /** Options after the inputs: numbered pictures (0) and beeps (1). */
  readonly args: readonly string[];
  readonly fps?: string;
  readonly seconds?: { readonly picture?: number; readonly sound?: number };
  /** Of each input's timestamps, seconds. */
  readonly offset?: { readonly picture?: number; readonly sound?: number };
  /** Where number 0 and the first beep are by the take's clock, seconds. */
  readonly expect?: { readonly picture?: number; readonly sound?: number };
  readonly soundRate?: number;
  readonly none?: 'picture' | 'sound';
  /** Whole seconds that are left of it. */
  readonly left?: number;
  /** One more step with the finished file. */
  readonly then?: readonly string[];
}

const x264 = (...more: string[]) => [
  '-c:v',
  'libx264',
  '-preset',
  'veryfast',
  '-crf',
  '12',
  '-pix_fmt',
  'yuv420p',
  ...more,
];
const AAC = ['-c:a', 'aac'];
const TAG = {
  bt709: [
    '-vf',
    'scale=out_color_matrix=bt709:out_range=tv',
    '-colorspace',
    'bt709',
    '-color_primaries',
    'bt709',
    '-color_trc',
    'bt709',
    '-color_range',
    'tv',
  ],
  bt601: [
    '-vf',
    'scale=out_color_matrix=bt601:out_range=tv',
    '-colorspace',
    'smpte170m',
    '-color_primaries',
    'smpte170m',
    '-color_trc',
    'smpte170m',
    '-color_range',
    'tv',
  ],
  full: [
    '-vf',
    'scale=out_color_matrix=bt709:out_range=pc',
    '-colorspace',
    'bt709',
    '-color_primaries',
    'bt709',
    '-color_trc',
    'bt709',
    '-color_range',
    'pc',
  ],
};
const plain = [...x264('-bf', '0', '-g', '30'), ...TAG.bt709, ...AAC];
const withoutDurations = [
  ...x264('-bf', '3', '-b_strategy', '0', '-x264-params', 'b-pyramid=normal:keyint=60'),
  ...['-fps_mode', 'passthrough', '-enc_time_base', '1:90000'],
  ...TAG.bt709,
  ...AAC,
];
const turned = (transpose: string, degrees: string): Kind => ({
  name: `turned by ${degrees}°`,
  file: 'mov',
  args: [
    ...x264('-bf', '0'),
    '-vf',
    `${transpose},scale=out_color_matrix=bt709`,
    '-colorspace',
    'bt709',
    ...AAC,
  ],
  then: ['-c', 'copy', '-metadata:s:v', `rotate=${degrees}`],
});

const KINDS: readonly Kind[] = [
  {
    name: 'H.264 with 3 B-frames that are referred to',
    file: 'mov',
    args: [
      ...x264('-bf', '3', '-b_strategy', '0', '-x264-params', 'b-pyramid=normal:keyint=60'),
      ...TAG.bt709,
      ...AAC,
    ],
  },
  {
    name: 'B-frames without durations',
    file: 'mp4',
    args: withoutDurations,
  },
  {
    name: 'B-frames without durations, at 60 a second',
    file: 'mp4',
    fps: '60',
    args: withoutDurations,
  },
  {
    name: 'negative timestamps',
    file: 'mkv',
    args: [...plain, '-output_ts_offset', '-0.05', '-avoid_negative_ts', 'disabled'],
    expect: { picture: 0.021, sound: 0.021 },
  },
  {
    name: 'open GOPs',
    file: 'mp4',
    args: [
      ...x264(
        '-bf',
        '3',
        '-b_strategy',
        '0',
        '-x264-params',
        'open-gop=1:keyint=40:min-keyint=40:scenecut=0:bframes=3',
      ),
      ...TAG.bt709,
      ...AAC,
    ],
  },
  {
    name: 'an edit list that begins later',
    file: 'mp4',
    args: plain,
    then: ['-ss', '1', '-c', 'copy'],
    expect: { picture: -1 },
    left: 2,
  },
  {
    name: 'timestamps that begin late',
    file: 'mp4',
    args: [...plain, '-output_ts_offset', '2000'],
  },
  {
    name: 'sound that begins late',
    file: 'mp4',
    args: plain,
    offset: { sound: 1.5 },
    expect: { sound: 1.5 },
  },
  {
    name: 'a picture that begins late',
    file: 'mp4',
    args: [...plain, '-fps_mode', 'passthrough'],
    offset: { picture: 1.2 },
    expect: { picture: 1.2 },
  },
  {
    name: 'both late, the sound more so',
    file: 'mkv',
    args: plain,
    offset: { picture: 3, sound: 3.4 },
    expect: { sound: 0.4 },
  },
  { name: '23.976 a second', file: 'mp4', fps: '24000/1001', args: plain },
  { name: '120 a second', file: 'mp4', fps: '120', args: plain },
  {
    name: 'a variable rate',
    file: 'mp4',
    args: [
      ...x264('-bf', '2'),
      '-vf',
      "select='not(mod(n,3))+lt(n,40)',scale=out_color_matrix=bt709",
      '-colorspace',
      'bt709',
      '-fps_mode',
      'vfr',
      ...AAC,
    ],
  },
  turned('transpose=1', '90'),
  turned('hflip,vflip', '180'),
  turned('transpose=2', '270'),
  {
    name: 'pixels that are not square',
    file: 'mp4',
    args: [
      ...x264('-bf', '0'),
      '-vf',
      'scale=240:180:out_color_matrix=bt709,setsar=4/3',
      '-colorspace',
      'bt709',
      ...AAC,
    ],
  },
  {
    name: 'odd numbers of pixels',
    file: 'mp4',
    args: [
      '-c:v',
      'libx264',
      '-crf',
      '10',
      '-pix_fmt',
      'yuv444p',
      '-vf',
      'scale=641:361:out_color_matrix=bt709',
      '-colorspace',
      'bt709',
      ...AAC,
    ],
  },
  { name: 'BT.601, said', file: 'mp4', args: [...x264('-bf', '0'), ...TAG.bt601, ...AAC] },
  {
    name: 'BT.601, not said',
    file: 'mp4',
    args: [...x264('-bf', '0'), '-vf', 'scale=out_color_matrix=bt601:out_range=tv', ...AAC],
  },
  {
    name: 'full range',
    file: 'mp4',
    args: [
      ...x264('-bf', '0').map((arg) => (arg === 'yuv420p' ? 'yuvj420p' : arg)),
      ...TAG.full,
      ...AAC,
    ],
  },
  {
    name: 'BT.709 in 720 lines, not said',
    file: 'mp4',
    args: [
      ...x264('-bf', '0'),
      '-vf',
      'scale=1280:720:flags=neighbor:out_color_matrix=bt709:out_range=tv',
      ...AAC,
    ],
  },
  {
    name: '10 bits',
    file: 'mp4',
    args: ['-c:v', 'libx264', '-crf', '12', '-pix_fmt', 'yuv420p10le', ...TAG.bt709, ...AAC],
  },
  {
    name: 'interlaced',
    file: 'mp4',
    args: [...x264('-flags', '+ildct+ilme', '-x264opts', 'tff=1'), ...TAG.bt709, ...AAC],
  },
  {
    name: 'HEVC with AC-3',
    file: 'mp4',
    args: [
      '-c:v',
      'libx265',
      '-preset',
      'ultrafast',
      '-x265-params',
      'log-level=error',
      '-crf',
      '12',
      '-pix_fmt',
      'yuv420p',
      ...TAG.bt709,
      '-c:a',
      'ac3',
    ],
  },
  {
    name: 'VP8 with Vorbis',
    file: 'webm',
    args: [
      '-c:v',
      'libvpx',
      '-b:v',
      '4M',
      '-deadline',
      'realtime',
      ...TAG.bt601,
      '-c:a',
      'libvorbis',
    ],
  },
  {
    name: 'VP9 with Opus',
    file: 'webm',
    args: [
      '-c:v',
      'libvpx-vp9',
      '-b:v',
      '4M',
      '-deadline',
      'realtime',
      '-cpu-used',
      '8',
      ...TAG.bt709,
      '-c:a',
      'libopus',
    ],
  },
  {
    name: 'AV1 with Opus',
    file: 'mkv',
    args: ['-c:v', 'libsvtav1', '-preset', '10', '-qp', '18', ...TAG.bt709, '-c:a', 'libopus'],
  },
  {
    name: 'ProRes with PCM',
    file: 'mov',
    args: ['-c:v', 'prores_ks', ...TAG.bt601, '-c:a', 'pcm_s16le'],
  },
  {
    name: 'MPEG-4 with MP3',
    file: 'mp4',
    args: ['-c:v', 'mpeg4', '-q:v', '2', ...TAG.bt601, '-c:a', 'libmp3lame'],
  },
  { name: '8 kHz, mono', file: 'mp4', soundRate: 8_000, args: [...plain, '-ac', '1'] },
  {
    name: '96 kHz, stereo',
    file: 'mov',
    soundRate: 96_000,
    args: [...plain.slice(0, -2), '-c:a', 'pcm_s24le', '-ac', '2'],
  },
  { name: '5.1 channels', file: 'mp4', args: [...plain, '-ac', '6'] },
  { name: 'no sound', file: 'mp4', args: plain, none: 'sound' },
  { name: 'no picture', file: 'mp4', args: AAC, none: 'picture' },
  {
    name: 'sound that goes on after the picture',
    file: 'mp4',
    args: plain,
    seconds: { picture: 2 },
  },
  {
    name: 'a picture that goes on after the sound',
    file: 'mp4',
    args: plain,
    seconds: { sound: 2 },
  },
  { name: 'one picture', file: 'mp4', args: plain, seconds: { picture: 1 / 30 } },
  {
    name: 'a gap in the sound',
    file: 'mp4',
    args: [...x264('-bf', '0'), ...TAG.bt709, '-af', "aselect='not(between(t,1.5,2.5))'", ...AAC],
  },
];

let server: TestServer;
let folder: string;
beforeAll(async () => {
  server = await startTestServer();
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-foreign-'));
  await server.ask('POST', '/api/lessons', { id: 'lesson-one', title: 'Footage of others' });
});
afterAll(async () => {
  await server.remove();
  await rm(folder, { recursive: true, force: true });
});

const masters = new Map<string, Promise<string>>();
const masterOf = (fps: string, seconds: number): Promise<string> => {
  const name = `master-${fps.replace('/', '-')}-${Math.round(seconds * 30)}.mkv`;
  const path = join(folder, name);
  const made = masters.get(name) ?? writeNumbered(path, { fps, seconds }).then(() => path);
  masters.set(name, made);
  return made;
};

const makeFilm = async (kind: Kind, id: string): Promise<string> => {
  const { fps = '30', seconds = {}, offset = {}, none, soundRate = 48_000 } = kind;
  const path = join(folder, `${id}.${kind.file}`);
  const first = kind.then ? join(folder, `${id}-first.${kind.file}`) : path;
  const picture = await masterOf(fps, seconds.picture ?? SECONDS);
  const late = (by = 0) => (by === 0 ? [] : ['-itsoffset', String(by)]);
  await run('ffmpeg', [
    ...(none === 'picture' ? [] : [...late(offset.picture), '-i', picture]),
    ...(none === 'sound'
      ? []
      : [...late(offset.sound), ...beeping(soundRate, seconds.sound ?? SECONDS)]),
    ...(none === undefined ? ['-map', '0:v', '-map', '1:a'] : []),
    ...kind.args,
    first,
  ]);
  if (kind.then) await run('ffmpeg', ['-i', first, ...kind.then, path]);
  return path;
};

/** Brings a film in, and makes a film of it. */
const throughTheMill = async (kind: Kind, id: string) => {
  const bytes = await readFile(await makeFilm(kind, id));
  await server.ask('POST', '/api/lessons/lesson-one/takes', {
    id,
    source: 'film',
    practice: false,
    tracks: [{ id: `${id}-surface`, kind: 'surface' }],
  });
  await server.upload(`${id}-surface`, bytes);
  await server.ask('POST', `/api/takes/${id}/stop`, {});
  await server.ingested(id);
  const { lesson } = (await server.ask('GET', '/api/lessons/lesson-one')).json;
  const take: Take = lesson.takes.find((candidate: Take) => candidate.id === id);
  expect([take.state, take.problem, server.logged]).toEqual(['ready', null, []]);
  const decisions = {
    ...lesson.decisions,
    ...wholeTakes([id]),
  };
  const film = filmOf({ ...lesson, decisions });
  const out = join(folder, `${id}-film.mp4`);
  await renderFilm({
    plan: await planFilm(film, { widthPx: WIDTH, heightPx: HEIGHT }, kind.name),
    mediaOf: (trackId) => server.parts.media.media(trackId),
    cache: new PieceCache(join(folder, 'cache')),
    out,
  });
  return { take, film, seen: await readNumbered(out) };
};

/** Where the first picture of a processed file is for a browser's reader, seconds. */
const firstForBrowsers = async (trackId: string): Promise<number> => {
  const { path } = server.parts.media.media(trackId);
  const input = new Input({ source: new FilePathSource(path), formats: [MP4] });
  const track = (await input.getPrimaryVideoTrack())!;
  const times: number[] = [];
  for await (const packet of new EncodedPacketSink(track).packets()) times.push(packet.timestamp);
  return Math.min(...times);
};

it.each(KINDS.map((kind, index) => [kind.name, kind, index] as const))(
  '%s',
  async (_, kind, index) => {
    const { take, film, seen } = await throughTheMill(kind, `take-kind-${index}`);
    const { fps = '30', none, expect: at = {}, seconds = {} } = kind;
    const [top = 30, bottom = 1] = fps.split('/').map(Number);
    const rate = top / bottom;
    const frames = film.frames;
    expect(seen.numbers).toHaveLength(frames);
    expect(Math.abs(frames / 30 - take.durationUs / 1e6)).toBeLessThanOrEqual(1 / 30);
    expect(Math.abs(seen.soundSeconds - frames / 30)).toBeLessThan(0.05);
    if (none !== 'picture') {
      const pictureAt = at.picture ?? 0;
      const last = Math.max(...seen.numbers);
      const off = seen.numbers.map((number, frame) => {
        const shownAt = pictureAt + number / rate;
        const now = frame / 30;
        // Before the first picture it is held back, after the last one it is held on.
        if ((number === 0 && now < shownAt) || number === last) return 0;
        return now - shownAt;
      });
      const step = kind.name === 'a variable rate' ? 3 / 30 : 1 / rate;
      expect([
        Math.min(...off) > -1 / 30,
        Math.max(...off) < Math.max(1 / 30, step) + 1 / 60,
      ]).toEqual([true, true]);
      const count = Math.round((seconds.picture ?? SECONDS) * rate);
      // What is on show in the middle of the last frame, and nothing before it.
      const lastShown = Math.floor(((frames - 0.5) / 30 - pictureAt) * rate - 0.01);
      const skipped = kind.name === 'a variable rate' ? 2 : 0;
      expect(last).toBeGreaterThanOrEqual(Math.min(count - 1, lastShown) - skipped);
      for (const [patch, colour] of PATCHES.entries()) {
        for (const channel of [0, 1, 2] as const) {
          const far = Math.abs(seen.patches[patch]![channel]! - colour[channel]);
          if (far > 3)
            throw new Error(
              `patch ${patch}: ${seen.patches[patch]!.map(Math.round)} for ${colour}`,
            );
        }
      }
      const first = await firstForBrowsers(take.tracks.find((track) => track.widthPx > 0)!.id);
      expect(Math.abs(first - Math.max(0, pictureAt))).toBeLessThan(1.01 / 30);
    }
    if (none !== 'sound') {
      const from = at.sound ?? 0;
      const wanted = Array.from(
        { length: kind.left ?? seconds.sound ?? SECONDS },
        (_one, second) => from + second,
      )
        .filter((second) => second < frames / 30 - 0.05)
        .filter((second) => kind.name !== 'a gap in the sound' || second !== 2);
      expect(seen.beeps).toHaveLength(wanted.length);
      for (const [beep, second] of wanted.entries()) {
        // Cut where nothing decodes the packet before, its beginning fades in.
        if (kind.left && beep === 0) continue;
        if (Math.abs(seen.beeps[beep]! - second) > 0.01) throw new Error(`beeps at ${seen.beeps}`);
      }
    }
  },
);
