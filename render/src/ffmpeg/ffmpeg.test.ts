import { spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PassThrough } from 'node:stream';
import { limited } from './limited';
import { exactReader } from './pipes';
import { decodeRecordedSound } from './recorded-sound';
import {
  feed,
  FfmpegError,
  FfmpegTimeout,
  onTheClock,
  openOptions,
  run,
  start,
  type MediaFile,
} from './run';

jest.setTimeout(120_000);

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-ffmpeg-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

describe('running ffmpeg', () => {
  it('fails with the last line of what it said', async () => {
    const failing = run('ffmpeg', ['-i', join(folder, 'none.mp4'), '-f', 'null', '-']);
    await expect(failing).rejects.toThrow(FfmpegError);
    await expect(failing).rejects.toThrow('No such file or directory');
  });
  it('is ended by its signal, with the signal’s own reason', async () => {
    const stop = new AbortController();
    const endless = start(
      'ffmpeg',
      ['-f', 'lavfi', '-i', 'testsrc', '-f', 'null', '-'],
      stop.signal,
    );
    setTimeout(() => stop.abort(new Error('enough')), 200);
    await expect(endless.ended).rejects.toThrow('enough');
    const late = start('ffmpeg', ['-f', 'lavfi', '-i', 'testsrc', '-f', 'null', '-'], stop.signal);
    await expect(late.ended).rejects.toThrow('enough');
  });
  it('is ended when it takes too long, or gives no sign of life', async () => {
    const endless = ['-re', '-f', 'lavfi', '-i', 'testsrc', '-f', 'null', '-'];
    await expect(run('ffmpeg', endless, undefined, { deadlineMs: 300 })).rejects.toThrow(
      new FfmpegTimeout('ffmpeg', 'it ran for 0 s'),
    );
    await expect(run('ffmpeg', endless, undefined, { quietMs: 400 })).rejects.toThrow('silent');
    // One that goes on telling is left alone; to begin with takes a while, too, on a busy machine.
    const telling = ['-progress', 'pipe:1', '-stats_period', '0.1', '-t', '5', ...endless];
    await run('ffmpeg', telling, undefined, { quietMs: 4_000 });
  });
  it('gets no more memory than it may', async () => {
    const large = ['-f', 'lavfi', '-i', 'testsrc=s=7680x4320', '-frames:v', '2', '-f', 'null', '-'];
    await run('ffmpeg', large, undefined, { memoryBytes: 4e9, deadlineMs: 20_000 });
    // Refused memory, it may stand still for ever: so there is a deadline wherever there is a limit.
    const short = { memoryBytes: 3e8, deadlineMs: 4_000 };
    await expect(run('ffmpeg', large, undefined, short)).rejects.toThrow(/^ffmpeg /);
  });
  it('ends with the process that started it, also when that is killed', async () => {
    const parent = spawn(process.execPath, [
      '-e',
      `const { spawn } = require('node:child_process');
       const [program, ...args] = ${JSON.stringify(
         limited(['ffmpeg', '-re', '-f', 'lavfi', '-i', 'testsrc', '-f', 'null', '-'], {}),
       )};
       const child = spawn(program, args, { stdio: 'ignore' });
       child.once('spawn', () => console.log(child.pid));`,
    ]);
    const pid = Number(await new Promise((resolve) => parent.stdout.once('data', resolve)));
    const lives = () => {
      try {
        return readFileSync(`/proc/${pid}/stat`, 'utf8').split(' ')[2] !== 'Z';
      } catch {
        return false;
      }
    };
    expect(lives()).toBe(true);
    parent.kill('SIGKILL');
    for (let tries = 0; tries < 50 && lives(); tries++) {
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    expect(lives()).toBe(false);
  });
  it('that has ended is told why, and not that a pipe is broken', async () => {
    const full = start('ffmpeg', [
      ...['-f', 'rawvideo', '-pix_fmt', 'rgba', '-s', '320x240', '-i', 'pipe:0'],
      ...['-f', 'rawvideo', '/dev/full'],
    ]);
    const feedForLong = async () => {
      for (let frame = 0; frame < 2_000; frame++)
        await feed(full, Buffer.alloc(320 * 240 * 4, frame));
    };
    await expect(feedForLong()).rejects.toThrow('No space left');
  });
  it('does not follow a playlist to other files, whatever it calls itself', async () => {
    const secret = join(folder, 'secret.txt');
    await writeFile(secret, 'not for you');
    const trap = join(folder, 'trap.mp4');
    await writeFile(trap, `#EXTM3U\n#EXTINF:10,\nfile://${secret}\n#EXT-X-ENDLIST\n`);
    for (const demuxer of ['mov', 'matroska'] as const) {
      const opened = run('ffprobe', [
        ...['-v', 'error', ...openOptions({ path: trap, demuxer })],
        ...['-show_format', trap],
      ]);
      await expect(opened).rejects.toThrow(FfmpegError);
    }
  });
  it('takes a name with quotes, spaces and dashes as a name', async () => {
    const odd = join(folder, `-y 'x' "$(touch pwned)" ; &.mp4`);
    await run('ffmpeg', ['-f', 'lavfi', '-i', 'testsrc=duration=0.2', '-f', 'mp4', odd]);
    const seen = await run('ffprobe', ['-v', 'error', '-show_entries', 'format=duration', odd]);
    expect(seen.toString()).toContain('duration=0.2');
  });
});

describe('reading exactly', () => {
  const readAll = async (parts: string[], size: number) => {
    const stream = new PassThrough();
    const read = exactReader(stream, size);
    for (const part of parts) stream.write(part);
    stream.end();
    const found: string[] = [];
    for (;;) {
      const bytes = await read();
      if (!bytes) return found;
      found.push(bytes.toString());
    }
  };
  it('gives pieces of one size however they arrive', async () => {
    expect(await readAll(['abcdefgh'], 4)).toEqual(['abcd', 'efgh']);
    expect(await readAll(['a', 'bc', 'defg', 'h'], 4)).toEqual(['abcd', 'efgh']);
  });
  it('gives nothing for a piece that does not become whole', async () =>
    expect(await readAll(['abcdef'], 4)).toEqual(['abcd']));
});

describe('sound on the clock', () => {
  /** Times of 1 kHz beeps in a file decoded on the clock, in seconds. */
  const beeps = async (path: string) => {
    const pcm = await run('ffmpeg', [
      ...['-copyts', '-i', path, '-af', onTheClock(48_000), '-ac', '1', '-f', 'f32le', 'pipe:1'],
    ]);
    const found: number[] = [];
    let quiet = 48_000;
    for (let at = 0; at * 4 < pcm.length; at++) {
      if (Math.abs(pcm.readFloatLE(at * 4)) > 0.2) {
        if (quiet > 9_600) found.push(at / 48_000);
        quiet = 0;
      } else quiet++;
    }
    return found;
  };
  const beeping = String.raw`aevalsrc=if(lt(mod(t\,1)\,0.05)\,0.6*sin(2*PI*1000*t)\,0):s=48000:d=9`;

  it('leaves a hole where something is missing, and nothing after it moves', async () => {
    const holed = join(folder, 'holed.mp4');
    // Two holes: a long one, and one that is too short for ffmpeg to fill by itself.
    const hole = 'aselect=not(between(t\\,2.3\\,2.8)+between(t\\,5.4\\,5.46))';
    await run('ffmpeg', ['-f', 'lavfi', '-i', beeping, '-af', hole, '-c:a', 'aac', holed]);
    const found = await beeps(holed);
    expect(found).toHaveLength(9);
    found.forEach((at, second) => expect(Math.abs(at - second)).toBeLessThan(0.03));
  });
  it('does not move what has no hole at all', async () => {
    const whole = join(folder, 'whole.mp4');
    await run('ffmpeg', ['-f', 'lavfi', '-i', beeping, '-c:a', 'libopus', whole]);
    const found = await beeps(whole);
    expect(found).toHaveLength(9);
    found.forEach((at, second) => expect(Math.abs(at - second)).toBeLessThan(0.012));
  });
});

describe('recorded sound', () => {
  const decoded = async (media: MediaFile, fromSample: number, samples: number) => {
    const running = decodeRecordedSound(media, { rate: 48_000, channels: 1, fromSample, samples });
    const parts: Buffer[] = [];
    for await (const bytes of running.stdout) parts.push(bytes as Buffer);
    await running.ended;
    const all = Buffer.concat(parts);
    return new Float32Array(all.buffer, all.byteOffset, all.length / 4);
  };
  it.each([
    ['AAC of 48 kHz', 48_000, ['-c:a', 'aac'], 'mp4', 'mov'],
    ['AAC of 44.1 kHz', 44_100, ['-c:a', 'aac'], 'mp4', 'mov'],
    ['AAC of 16 kHz', 16_000, ['-c:a', 'aac'], 'mp4', 'mov'],
    ['Opus', 48_000, ['-c:a', 'libopus'], 'mp4', 'mov'],
  ] as const)(
    'of %s is the same read from the middle as from the start',
    async (_name, rate, codec, extension, demuxer) => {
      const path = join(folder, `sound-${rate}-${codec[1]}.${extension}`);
      const voice = '0.3*sin(2*PI*t*(200+30*sin(t)))*(0.6+0.4*sin(7*t))';
      await run('ffmpeg', [
        ...['-f', 'lavfi', '-i', `aevalsrc=${voice}:s=${rate}:d=15`, ...codec, path],
      ]);
      const media: MediaFile = { path, demuxer };
      const whole = await decoded(media, 0, 15 * 48_000);
      for (const from of [30_000, 100_000, 480_000, 499_712]) {
        const part = await decoded(media, from, 96_000);
        expect(part).toHaveLength(96_000);
        let most = 0;
        part.forEach((sample, at) => {
          most = Math.max(most, Math.abs(sample - whole[from + at]!));
        });
        expect([from, most < 0.002]).toEqual([from, true]);
      }
    },
  );
});
