import { run } from '@under-chalk/render';
import { appendFile, mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { existsSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readNumbered, writeNumbered } from '../../testing/numbered-film';
import { gone, startTestServer, type TestServer } from '../../testing/test-server';
import { packetTimes } from './probe';
import { readableFiles, runsIn } from './recorded-file';

jest.setTimeout(120_000);

let server: TestServer;
let folder: string;
let numbered: string;
const FRAGMENTED = ['-movflags', '+frag_keyframe+empty_moov+default_base_moof'];
const ENCODED = ['-c:v', 'libx264', '-preset', 'ultrafast', '-crf', '12', '-pix_fmt', 'yuv420p'];

beforeAll(async () => {
  server = await startTestServer();
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-ingest-'));
  await server.ask('POST', '/api/lessons', { id: 'lesson-one', title: 'Settling' });
  numbered = join(folder, 'numbered.mkv');
  await writeNumbered(numbered, { fps: '30', seconds: 6 });
});
afterAll(async () => {
  await server.remove();
  await rm(folder, { recursive: true, force: true });
});

const make = async (name: string, ...args: string[]): Promise<Buffer> => {
  const path = join(folder, name);
  await run('ffmpeg', [...args, '-f', name.endsWith('.webm') ? 'webm' : 'mp4', path]);
  return readFile(path);
};

/** Moves all fragments of a file (ISO/IEC 14496-12 §8.8.12: `tfdt`). */
const movedBy = (seconds: number, file: Buffer): Buffer => {
  const moved = Buffer.from(file);
  const mdhd = moved.indexOf('mdhd', 0, 'latin1');
  const timescale = moved.readUInt32BE(mdhd + 4 + 12);
  const by = BigInt(Math.round(seconds * timescale));
  for (let at = moved.indexOf('tfdt'); at >= 0; at = moved.indexOf('tfdt', at + 4)) {
    const version = moved.readUInt8(at + 4);
    expect(version).toBe(1);
    moved.writeBigUInt64BE(moved.readBigUInt64BE(at + 8) + by, at + 8);
  }
  return moved;
};

/** A stretch of the numbered pictures as a recorder writes it: a fragmented file whose times are recorded time. */
const stretch = async (name: string, from: number, to: number, ...encoding: string[]) =>
  movedBy(
    from,
    await make(
      name,
      ...['-i', numbered, '-vf', `trim=${from}:${to},setpts=PTS-STARTPTS`, ...ENCODED],
      ...[...encoding, '-bf', '0', '-g', '30', ...FRAGMENTED],
    ),
  );

const ingest = async (
  id: string,
  source: 'film' | 'screen',
  tracks: Record<string, Buffer>,
): Promise<any> => {
  await server.ask('POST', '/api/lessons/lesson-one/takes', {
    id,
    source,
    practice: true,
    tracks: Object.keys(tracks).map((kind) => ({ id: `${id}-${kind}`, kind })),
  });
  for (const [kind, bytes] of Object.entries(tracks)) await server.upload(`${id}-${kind}`, bytes);
  await server.ask('POST', `/api/takes/${id}/stop`, {});
  await server.ingested(id);
  return (await server.ask('GET', `/api/takes/${id}`)).json;
};

describe('a track whose encoder was opened anew', () => {
  it('with the same settings: the fragments of both follow one another, and nothing is encoded again', async () => {
    const whole = Buffer.concat([await stretch('a1.mp4', 0, 2), await stretch('a2.mp4', 2.5, 6)]);
    const path = join(folder, 'again.mp4');
    await writeFile(path, whole);
    expect((await runsIn(path)).runs).toHaveLength(2);
    const drafts: string[] = [];
    const files = await readableFiles({ path, demuxer: 'mov' }, () => {
      drafts.push(join(folder, `draft-${drafts.length}`));
      return drafts.at(-1)!;
    });
    expect(files).toHaveLength(1);
    expect((await packetTimes(files[0]!)).count).toBe(60 + 105);
    const take = await ingest('take-again', 'screen', { surface: whole });
    expect([take.state, take.problem, take.durationUs]).toEqual(['ready', null, 6_000_000]);
    await gone(server.parts.media.incoming('take-again-surface'));
  });

  it('with others: everything is there, in one size, at its time', async () => {
    const whole = Buffer.concat([
      await stretch('b1.mp4', 0, 2, '-profile:v', 'high', '-preset', 'veryfast'),
      await stretch('b2.mp4', 2, 4, '-profile:v', 'baseline'),
      await stretch('b3.mp4', 4.5, 6, '-s', '160x90'),
    ]);
    const take = await ingest('take-other', 'screen', { surface: whole });
    expect([take.state, take.problem]).toEqual(['ready', null]);
    expect(Math.abs(take.durationUs - 6_000_000)).toBeLessThan(100);
    expect(take.tracks[0]).toMatchObject({ widthPx: 320, heightPx: 180 });
    const times = await packetTimes({
      path: server.parts.media.media('take-other-surface').path,
      demuxer: 'mov',
    });
    expect(times.count).toBe(60 + 60 + 45);
    // What came in of it is kept: it has been encoded again.
    expect(existsSync(server.parts.media.incoming('take-other-surface'))).toBe(true);
    // A beep track stands in for the sound that `readNumbered` wants.
    const film = join(folder, 'other-film.mp4');
    await run('ffmpeg', [
      ...['-copyts', '-i', server.parts.media.media('take-other-surface').path],
      ...['-f', 'lavfi', '-t', '6', '-i', 'anullsrc', '-vf', 'fps=30', '-c:v', 'libx264', film],
    ]);
    const { numbers } = await readNumbered(film);
    const wrong = numbers.filter((number, frame) => {
      const gap = frame >= 120 && frame < 135;
      return gap ? number !== 119 : Math.abs(number - frame) > 1;
    });
    expect(wrong).toEqual([]);
  });
});

describe('a stream that can’t be read', () => {
  it('is left out with a sentence, and the rest is ready; made ready anew it is as before', async () => {
    const film = await make(
      'sound.mp4',
      ...['-i', numbered, '-f', 'lavfi', '-t', '6', '-i', 'sine', ...ENCODED, '-c:a', 'aac'],
    );
    // The table of where its sound lies points past the end of the file.
    const torn = Buffer.from(film);
    const stco = torn.lastIndexOf('stco', undefined, 'latin1');
    for (let entry = 0; entry < torn.readUInt32BE(stco + 8); entry++) {
      torn.writeUInt32BE(0x7fffff00, stco + 12 + entry * 4);
    }
    const take = await ingest('take-mute', 'film', { surface: torn });
    expect([take.state, take.problem]).toEqual(['ready', 'sound-unreadable']);
    expect(take.tracks.map((track: { kind: string }) => track.kind)).toEqual(['surface']);
    const anew = await server.ask('POST', '/api/takes/take-mute/process');
    expect(anew.json.state).toBe('processing');
    await server.ingested('take-mute');
    const after = (await server.ask('GET', '/api/takes/take-mute')).json;
    expect([after.state, after.problem, after.durationUs]).toEqual([
      'ready',
      'sound-unreadable',
      take.durationUs,
    ]);
  });
});

describe('films that are odd', () => {
  const odd = async (id: string, ...args: string[]) =>
    ingest(id, 'film', { surface: await make(`${id}.webm`, ...args) });

  it('of one pixel, and of more than a screen has, are shown all the same', async () => {
    const vp8 = ['-c:v', 'libvpx', '-b:v', '100k', '-deadline', 'realtime', '-t', '0.3'];
    const tiny = await odd('take-tiny', '-f', 'lavfi', '-i', 'color=red:s=2x2', ...vp8);
    expect([tiny.state, tiny.tracks[0].widthPx]).toEqual(['ready', 16]);
    const large = await odd(
      'take-large',
      ...['-f', 'lavfi', '-i', 'color=red:s=7680x4320:r=2', '-t', '0.5'],
      ...['-c:v', 'libvpx', '-b:v', '500k', '-deadline', 'realtime', '-cpu-used', '8'],
    );
    expect([large.state, large.tracks[0]]).toMatchObject([
      'ready',
      { widthPx: 3840, heightPx: 2160 },
    ]);
  });

  it('longer than a day are refused in a sentence of their own', async () => {
    const path = join(folder, 'long.mkv');
    await run('ffmpeg', [
      ...['-f', 'lavfi', '-t', '2', '-i', 'color=red:s=64x64:r=1', '-c:v', 'libx264'],
      ...['-vf', 'setpts=if(N\\,100000/TB\\,0)', '-fps_mode', 'passthrough', path],
    ]);
    const take = await ingest('take-long', 'film', { surface: await readFile(path) });
    expect([take.state, take.problem]).toEqual(['unusable', 'take-too-long']);
    expect((await server.ask('GET', '/api/lessons')).status).toBe(200);
  });
});

describe('processing', () => {
  it('can be called off, and begun again', async () => {
    const film = await make(
      'slow.mp4',
      ...[
        '-f',
        'lavfi',
        '-i',
        'testsrc2=s=1280x720:r=30',
        '-t',
        '10',
        '-c:v',
        'mpeg4',
        '-q:v',
        '5',
      ],
    );
    await server.ask('POST', '/api/lessons/lesson-one/takes', {
      id: 'take-slow',
      source: 'film',
      practice: false,
      tracks: [{ id: 'take-slow-surface', kind: 'surface' }],
    });
    await server.upload('take-slow-surface', film);
    await server.ask('POST', '/api/takes/take-slow/stop', {});
    await new Promise((resolve) => setTimeout(resolve, 800));
    // A recording does not wait for it.
    const quick = await ingest('take-quick', 'screen', { surface: await stretch('q.mp4', 0, 2) });
    expect(quick.state).toBe('ready');
    expect((await server.ask('GET', '/api/takes/take-slow')).json.state).toBe('processing');
    const off = (await server.ask('POST', '/api/takes/take-slow/cancel')).json;
    expect([off.state, off.problem]).toEqual(['unusable', 'called-off']);
    // Nothing half made is left.
    const left = (await readdir(server.config.folders.media)).filter((name) => /draft/.test(name));
    expect(left).toEqual([]);
    await server.ask('POST', '/api/takes/take-slow/process');
    expect(await server.ingested('take-slow')).toBe('ready');
  });

  it('clears away what a killed server was making', async () => {
    const left = join(server.config.folders.media, 'killed.draft');
    await appendFile(left, 'half');
    const { home } = server.config.folders;
    await server.stop();
    server = await startTestServer({ home });
    expect(existsSync(left)).toBe(false);
  });
});
