import { placedIn } from '@under-chalk/core/lesson/lesson';
import { run } from '@under-chalk/render';
import {
  BufferTarget,
  EncodedAudioPacketSource,
  EncodedPacketSink,
  FilePathSource,
  Input,
  MP4,
  Mp4OutputFormat,
  Output,
} from 'mediabunny';
import { mkdtemp, readFile, rm, writeFile, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { packetTimes } from '../jobs/ingest/probe';
import { gone, startTestServer, type TestServer } from '../testing/test-server';
import type { Work } from '../jobs/film-maker';
import { doFilmWork } from '../jobs/film-work';

jest.setTimeout(120_000);
let server: TestServer;
let folder: string;
/** Fragmented MP4s as the recorder writes them: one stream, a fragment a second. */
let picture: Buffer;
let voice: Buffer;

const make = async (name: string, args: string[]) => {
  await run('ffmpeg', [...args, join(folder, name)]);
  return readFile(join(folder, name));
};

/** The sound of a file, later by some seconds, written by the recorder's own muxer. */
const movedBy = async (seconds: number, path: string): Promise<Buffer> => {
  const input = new Input({ source: new FilePathSource(path), formats: [MP4] });
  const track = (await input.getPrimaryAudioTrack())!;
  const target = new BufferTarget();
  const output = new Output({ format: new Mp4OutputFormat({ fastStart: 'fragmented' }), target });
  const source = new EncodedAudioPacketSource('opus');
  output.addAudioTrack(source);
  await output.start();
  const decoderConfig = (await track.getDecoderConfig())!;
  for await (const packet of new EncodedPacketSink(track).packets()) {
    await source.add(packet.clone({ timestamp: packet.timestamp + seconds }), { decoderConfig });
  }
  await output.finalize();
  return Buffer.from(target.buffer!);
};

beforeAll(async () => {
  server = await startTestServer();
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-footage-'));
  const fragmented = ['-movflags', '+frag_keyframe+empty_moov+default_base_moof', '-f', 'mp4'];
  const h264 = ['-c:v', 'libx264', '-preset', 'ultrafast', '-g', '30', '-pix_fmt', 'yuv420p'];
  picture = await make('picture.mp4', [
    ...['-f', 'lavfi', '-i', 'testsrc2=size=320x240:rate=30', '-t', '6', ...h264, ...fragmented],
  ]);
  // Begins 0.3 s into the take, and speaks in the middle.
  await make('plain.mp4', [
    ...['-f', 'lavfi', '-t', '5.7', '-i', 'sine=frequency=300:sample_rate=48000'],
    ...['-af', "volume='between(t,1.7,3.7)':eval=frame", '-c:a', 'libopus'],
  ]);
  voice = await movedBy(0.3, join(folder, 'plain.mp4'));
  await server.ask('POST', '/api/lessons', { id: 'lesson-one', title: 'Reading a tide table' });
});
afterAll(async () => {
  await server.remove();
  await rm(folder, { recursive: true, force: true });
});

const begin = (id: string, kinds: string[] = ['surface', 'voice'], source = 'screen') =>
  server.ask('POST', '/api/lessons/lesson-one/takes', {
    id,
    source,
    practice: true,
    tracks: kinds.map((kind) => ({ id: `${id}-${kind}`, kind })),
  });
/** Sends more of a track, from where the server stands. */
const append = async (trackId: string, from: number, bytes: Buffer) => {
  const sent = await fetch(`${server.url}/api/uploads/${trackId}`, {
    method: 'PATCH',
    headers: {
      'Tus-Resumable': '1.0.0',
      'Upload-Offset': String(from),
      'Upload-Length': String(from + bytes.length),
      'Content-Type': 'application/offset+octet-stream',
    },
    body: new Uint8Array(bytes),
  });
  expect(sent.status).toBe(204);
};
const takeOf = async (id: string) =>
  (await server.ask('GET', '/api/lessons/lesson-one')).json.lesson.takes.find(
    (take: { id: string }) => take.id === id,
  );

describe('a take', () => {
  it('arrives in pieces, is processed and can be played from any place', async () => {
    await begin('take-whole');
    await server.upload('take-whole-surface', picture, 40_000);
    await server.upload('take-whole-voice', voice, 9_000);
    await server.ask('POST', '/api/takes/take-whole/stop', {});
    expect(await server.ingested('take-whole')).toBe('ready');
    const take = await takeOf('take-whole');
    expect(take.durationUs).toBeGreaterThan(5_990_000);
    expect(take.durationUs).toBeLessThan(6_050_000);
    expect(take.tracks[0]).toMatchObject({ kind: 'surface', widthPx: 320, heightPx: 240 });
    await gone(server.parts.media.incoming('take-whole-surface'));

    const media = await server.ask('GET', '/api/tracks/take-whole-surface/media', undefined, {
      Range: 'bytes=0-99',
    });
    expect([media.status, media.headers.get('content-range')]).toEqual([
      206,
      `bytes 0-99/${(await readFile(server.parts.media.media('take-whole-surface').path)).length}`,
    ]);
    const still = await server.ask('GET', '/api/takes/take-whole/still?atUs=3000000');
    expect([still.status, still.headers.get('content-type')]).toEqual([200, 'image/jpeg']);
  });

  it('keeps every packet, also one at the end of which nobody says how long it is', async () => {
    for (const [kind, sent] of Object.entries({ surface: picture, voice })) {
      const path = join(folder, `sent-${kind}.mp4`);
      await writeFile(path, sent);
      const ingested = server.parts.media.media(`take-whole-${kind}`).path;
      const { count } = await packetTimes({ path: ingested, demuxer: 'mov' });
      expect(count).toBe((await packetTimes({ path, demuxer: 'mov' })).count);
    }
  });

  it('keeps the times at which things were recorded', async () => {
    const times = await packetTimes({
      path: server.parts.media.media('take-whole-voice').path,
      demuxer: 'mov',
    });
    expect(times.endUs).toBeGreaterThan(5_980_000);
    const response = await fetch(`${server.url}/api/takes/take-whole/levels`);
    const line = new Uint8Array(await response.arrayBuffer());
    const loud = [...line].flatMap((level, step) => (level > 60 ? [step * 0.02] : []));
    expect(Math.abs(loud[0]! - 2.0)).toBeLessThan(0.05);
    expect(Math.abs(loud.at(-1)! - 4.0)).toBeLessThan(0.08);
  });

  it('is saved as far as it came when its recorder vanishes, and grows when the rest arrives', async () => {
    await begin('take-torn');
    const torn = Math.floor(picture.length * 0.7);
    const tornVoice = Math.floor(voice.length * 0.7);
    await server.upload('take-torn-surface', picture.subarray(0, torn), torn, 'part');
    await server.upload('take-torn-voice', voice.subarray(0, tornVoice), tornVoice, 'part');
    await server.parts.takeService.sweep(Date.now());
    expect((await takeOf('take-torn')).state).toBe('recording');
    await server.parts.takeService.sweep(Date.now() + 31_000);
    expect(await server.ingested('take-torn')).toBe('ready');
    const short = await takeOf('take-torn');
    expect(short).toMatchObject({ cutShort: true });
    expect(short.durationUs).toBeGreaterThan(2_900_000);
    expect(short.durationUs).toBeLessThan(6_000_000);
    // It ends with a whole fragment: nothing in it makes a decoder stumble.
    for (const kind of ['surface', 'voice']) {
      const path = server.parts.media.media(`take-torn-${kind}`).path;
      await run('ffmpeg', ['-v', 'error', '-xerror', '-i', path, '-f', 'null', '-']);
    }

    await append('take-torn-surface', torn, picture.subarray(torn));
    // Told to be at its end while a track isn't: its sender must not let go of what is missing.
    const early = await server.ask('POST', '/api/takes/take-torn/stop', {});
    expect(early.json.cutShort).toBe(true);
    await append('take-torn-voice', tornVoice, voice.subarray(tornVoice));
    await server.ask('POST', '/api/takes/take-torn/stop', {});
    await server.ingested('take-torn');
    const whole = await takeOf('take-torn');
    expect(whole.durationUs).toBeGreaterThan(5_950_000);
    expect(whole.cutShort).toBe(false);
  });

  it('that is told to be processed twice is processed once, from all that has come', async () => {
    await begin('take-twice');
    const torn = Math.floor(picture.length * 0.5);
    await server.upload('take-twice-surface', picture.subarray(0, torn), torn, 'part');
    await server.upload('take-twice-voice', voice);
    // The server takes its recorder to be gone; at that moment it comes back, with the rest.
    await server.parts.takeService.ingest('take-twice', true);
    await append('take-twice-surface', torn, picture.subarray(torn));
    await server.parts.takeService.ingest('take-twice', false);
    await server.parts.takeService.ingest('take-twice', false);
    expect(await server.ingested('take-twice')).toBe('ready');
    const whole = await takeOf('take-twice');
    for (const track of whole.tracks) expect(track.durationUs).toBeGreaterThan(5_950_000);

    // Nothing of what was waiting in line takes it for empty, now that what came in is gone.
    await begin('take-after');
    await server.upload('take-after-surface', picture);
    await server.ask('POST', '/api/takes/take-after/stop', {});
    await server.ingested('take-after');
    expect(await takeOf('take-twice')).toEqual(whole);
  });

  it('says so when nothing had been recorded', async () => {
    await begin('take-empty');
    await server.upload('take-empty-surface', Buffer.alloc(0));
    await server.ask('POST', '/api/takes/take-empty/stop', {});
    expect(await server.ingested('take-empty')).toBe('unusable');
    expect((await takeOf('take-empty')).problem).toBe('take-empty');
  });

  it('lives with the track that did arrive when the other did not', async () => {
    await begin('take-mute');
    await server.upload('take-mute-surface', picture);
    await server.ask('POST', '/api/takes/take-mute/stop', {});
    await server.ingested('take-mute');
    expect((await takeOf('take-mute')).tracks.map((track: { kind: string }) => track.kind)).toEqual(
      ['surface'],
    );
  });

  it('can’t be begun anew over its own footage, nor sent by nobody', async () => {
    await begin('take-twice');
    expect(await server.upload('take-twice-surface', picture)).toBe(201);
    expect(await server.upload('take-twice-surface', Buffer.from('gone'))).toBe(409);
    expect(await server.upload('no-such-track', picture)).toBe(404);
    expect(await server.upload('../../escape', picture)).toBe(404);
    expect((await begin('take-twice')).status).toBe(409);
  });
});

describe('a film brought in', () => {
  const bringIn = async (id: string, bytes: Buffer) => {
    await begin(id, ['surface'], 'film');
    await server.upload(`${id}-surface`, bytes, 100_000);
    await server.ask('POST', `/api/takes/${id}/stop`, {});
    await server.ingested(id);
    return takeOf(id);
  };

  it('becomes a take with picture and voice, from MP4, MOV and WebM', async () => {
    const both = ['-i', join(folder, 'picture.mp4'), '-i', join(folder, 'plain.mp4')];
    for (const [name, codecs] of [
      ['film.mp4', ['-c:v', 'copy', '-c:a', 'aac']],
      ['film.mov', ['-c:v', 'prores', '-c:a', 'pcm_s16le']],
      ['film.webm', ['-c:v', 'libvpx', '-deadline', 'good', '-cpu-used', '5', '-c:a', 'libopus']],
    ] as const) {
      const bytes = await make(name, [...both, ...codecs, '-t', '3']);
      const take = await bringIn(`take-${name.replace('.', '-')}`, bytes);
      expect([name, take.state, take.problem]).toEqual([name, 'ready', null]);
      expect(take.tracks.map((track: { kind: string }) => track.kind)).toEqual([
        'surface',
        'voice',
      ]);
      // A container may round the last picture's length up by some frames.
      expect([name, Math.abs(take.durationUs - 3_000_000) < 150_000]).toEqual([name, true]);
    }
  });

  it('stands upright when a phone was held upright', async () => {
    const bytes = await make('turned.mp4', [
      ...['-display_rotation', '90', '-i', join(folder, 'picture.mp4'), '-c', 'copy', '-t', '2'],
    ]).catch(() =>
      make('turned.mp4', [
        ...[
          '-i',
          join(folder, 'picture.mp4'),
          '-c',
          'copy',
          '-metadata:s:v:0',
          'rotate=90',
          '-t',
          '2',
        ],
      ]),
    );
    const take = await bringIn('take-turned', bytes);
    expect(take.tracks[0]).toMatchObject({ widthPx: 240, heightPx: 320 });
  });

  it.each([
    ['empty', Buffer.alloc(0), 'file-empty'],
    ['a text', Buffer.from('#EXTM3U\nfile:///etc/passwd\n'), 'file-not-film'],
    [
      'a playlist that reads files',
      Buffer.from("ffconcat version 1.0\nfile '/etc/passwd'"),
      'file-not-film',
    ],
    ['damaged', Buffer.from('\0\0\0\x18ftypisom' + 'x'.repeat(400), 'latin1'), 'film-unreadable'],
  ])('is refused with a sentence when it is %s', async (name, bytes, problem) => {
    const take = await bringIn(`film-${name.replace(/ /g, '-')}`, bytes);
    expect([take.state, take.problem]).toEqual(['unusable', problem]);
  });

  it('is refused when it is larger than may be', async () => {
    const small = await startTestServer({ mostBytes: 1_000 });
    try {
      await small.ask('POST', '/api/lessons', { id: 'lesson-two', title: '' });
      await small.ask('POST', '/api/lessons/lesson-two/takes', {
        id: 'take-large',
        source: 'film',
        practice: false,
        tracks: [{ id: 'track-large', kind: 'surface' }],
      });
      expect(await small.upload('track-large', Buffer.alloc(2_000))).toBe(413);
    } finally {
      await small.remove();
    }
  });
});

describe('films', () => {
  const film = async (size = '720p') =>
    (await server.ask('POST', '/api/lessons/lesson-one/films', { size })).json;
  const over = async (on: TestServer, filmId: string) => {
    for (;;) {
      const { state } = await on.parts.films.get(filmId);
      if (!['waiting', 'making'].includes(state)) return state;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
  };

  beforeAll(async () => {
    const { json } = await server.ask('GET', '/api/lessons/lesson-one');
    const others = placedIn(json.lesson).filter(({ takeId }) => takeId !== 'take-whole');
    await server.edit(
      'lesson-one',
      ...others.map(({ id }) => ({ do: 'exclude-take' as const, placementId: id })),
      { do: 'cut', takeId: 'take-whole', startUs: 1_000_000, endUs: 2_000_000 },
    );
  });

  it('are made once, named by the title, and can be saved', async () => {
    const first = await film();
    expect((await film()).id).toBe(first.id);
    expect(await over(server, first.id)).toBe('done');
    const file = await server.ask('GET', `/api/films/${first.id}/file`);
    expect(file.headers.get('content-disposition')).toContain('Reading%20a%20tide%20table.mp4');
    const { json: rows } = await server.ask('GET', '/api/lessons/lesson-one/films');
    expect(rows[0]).toMatchObject({ state: 'done', done: 1, filmUs: 5_000_000 });
  });

  it('are given as their sound alone, as it is or as an MP3, named as the film; and gone with it', async () => {
    const { json: rows } = await server.ask('GET', '/api/lessons/lesson-one/films');
    const made = rows.find(({ state }: { state: string }) => state === 'done');
    const path = `/api/films/${made.id}/sound`;
    for (const [form, codec] of [
      ['m4a', 'aac'],
      ['mp3', 'mp3'],
    ] as const) {
      const { json } = await server.ask('POST', path, { form });
      const file = server.parts.media.filmSound(made.id, form);
      expect((await stat(file)).size).toBe(json.bytes);
      const told = JSON.parse(
        String(
          await run('ffprobe', [
            '-v',
            'error',
            '-show_streams',
            '-show_format',
            '-of',
            'json',
            file,
          ]),
        ),
      );
      expect(told.streams.map((one: { codec_name: string }) => one.codec_name)).toEqual([codec]);
      expect(Math.abs(Number(told.format.duration) - 5)).toBeLessThan(0.1);
      expect((await server.ask('GET', `${path}?form=${form}`)).status).toBe(200);
    }
    expect((await server.ask('POST', path, { form: 'wav' })).status).toBe(400);
    expect((await server.ask('POST', '/api/films/film-none/sound', { form: 'mp3' })).status).toBe(
      404,
    );
  });

  it('are watched by a link that shows nothing else and can be taken away at once', async () => {
    const { json: shareLink } = await server.ask('POST', '/api/lessons/lesson-one/share-links', {
      size: '720p',
    });
    expect(shareLink.token).toMatch(/^[\w-]{22}$/);
    await over(server, shareLink.film.id);
    const watch = `/api/watch/${shareLink.token}`;
    const { json: page } = await server.ask('GET', watch);
    expect(page).toMatchObject({ title: 'Reading a tide table', state: 'done', filmUs: 5_000_000 });
    expect(JSON.stringify(page)).not.toMatch(/take-|lesson-one|track/);
    const part = await server.ask('GET', `${watch}/film.mp4`, undefined, { Range: 'bytes=0-9' });
    expect(part.status).toBe(206);
    expect((await server.ask('GET', `${watch}/cover.jpg`)).status).toBe(200);

    await server.ask('DELETE', `/api/share-links/${shareLink.id}`);
    for (const path of [watch, `${watch}/film.mp4`, `${watch}/cover.jpg`]) {
      expect([path, (await server.ask('GET', path)).status]).toEqual([path, 404]);
    }
    expect((await server.ask('GET', '/api/watch/AAAAAAAAAAAAAAAAAAAAAA')).status).toBe(404);
  });

  it('can be called off, tried again, and fail with a reason', async () => {
    let fail: 'hang' | 'break' | 'work' = 'hang';
    const work: Work = (job, onProgress, signal, takeTurn) => {
      if (fail === 'work') return doFilmWork(job, onProgress, signal, takeTurn);
      if (fail === 'break') return Promise.reject(new Error('the encoder fell over'));
      onProgress({ done: 0.4, doing: 'pictures', leftUs: 9_000_000 });
      return new Promise((_, reject) =>
        signal.addEventListener('abort', () => reject(signal.reason as Error)),
      );
    };
    const home = server.config.folders.home;
    await server.stop();
    server = await startTestServer({ home, work });
    const wanted = await film('1080p');
    await new Promise((resolve) => setTimeout(resolve, 100));
    const { json: rows } = await server.ask('GET', '/api/lessons/lesson-one/films');
    expect(rows[0]).toMatchObject({ state: 'making', done: 0.4, doing: 'Drawing the pictures' });
    await server.ask('POST', `/api/films/${wanted.id}/cancel`);
    expect(await over(server, wanted.id)).toBe('cancelled');

    fail = 'break';
    await server.ask('POST', `/api/films/${wanted.id}/retry`);
    expect(await over(server, wanted.id)).toBe('failed');
    const { json: failed } = await server.ask('GET', '/api/lessons/lesson-one/films');
    expect(failed[0]).toMatchObject({
      problem: 'export-failed',
      problemDetail: 'the encoder fell over',
    });

    fail = 'work';
    await server.ask('POST', `/api/films/${wanted.id}/retry`);
    expect(await over(server, wanted.id)).toBe('done');
  });

  it('go on after the server was killed while making them', async () => {
    const wanted = await server.parts.films.want({
      lesson_id: 'lesson-one',
      revision: (await server.ask('GET', '/api/lessons/lesson-one')).json.lesson.revision,
      manifest_id: 'of-a-killed-server',
      size: 'as-recorded',
      film_us: 5_000_000,
      file_name: 'x.mp4',
      words: null,
    });
    // As a kill leaves it: marked as being made, by nobody.
    await server.parts.films.change(wanted.id, ['waiting'], { state: 'making' });
    const home = server.config.folders.home;
    await server.stop();
    server = await startTestServer({ home });
    expect(await over(server, wanted.id)).toBe('done');
  });

  it('are not made of nothing', async () => {
    await server.ask('POST', '/api/lessons', { id: 'lesson-bare', title: '' });
    const asked = await server.ask('POST', '/api/lessons/lesson-bare/films', { size: '720p' });
    expect([asked.status, asked.json.code]).toEqual([409, 'nothing-in-film']);
  });
});
