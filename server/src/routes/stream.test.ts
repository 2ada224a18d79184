import type { FilmRow } from '@under-chalk/core/contract/films';
import type { ShareLink } from '@under-chalk/core/contract/share-links';
import { againstMasterPlaylist, againstMediaPlaylist } from '@under-chalk/core/testing/hls-rules';
import { SCHEMAS } from '@under-chalk/core/out/course-package';
import { createCanvas, loadImage } from '@napi-rs/canvas';
import { TICKET_MS } from '@under-chalk/core/contract/stream';
import { previewSheet } from '@under-chalk/core/stream/preview-sheet';
import { run } from '@under-chalk/render';
import { mkdir, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { existsSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { validateXML } from 'xmllint-wasm';
import { doFilmWork } from '../jobs/film-work';
import type { Work } from '../jobs/film-maker';
import { filesIn } from '../testing/archive';
import { builtScript } from '../testing/built-scripts';
import { startTestServer, type TestServer } from '../testing/test-server';

jest.setTimeout(120_000);

const LESSON = 'lesson-stream';
const TAKE = 'take-stream';
let server: TestServer;
let folder: string;
let player: string;
/** Nothing is made but what is asked for until this is called. */
let goOn: () => void;
let waits: Promise<void>;
const hold = () => {
  waits = new Promise((resolve) => {
    goOn = resolve;
  });
};
const work: Work = (job, onProgress, signal, _turn, asked) => {
  const turn = async () => {
    await Promise.race([
      waits,
      new Promise((_, reject) => {
        signal.addEventListener('abort', () => reject(signal.reason as Error));
      }),
    ]);
    return () => undefined;
  };
  return doFilmWork(job, onProgress, signal, turn, asked);
};

/** A picture that is another each second, and a tone that is higher each second. */
const SECONDS = 20;
beforeAll(async () => {
  hold();
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-stream-'));
  player = builtScript('course-player.js');
  server = await startTestServer({ work, coursePlayer: player });
  const fragmented = ['-movflags', '+frag_keyframe+empty_moov+default_base_moof', '-f', 'mp4'];
  const [picture, voice] = [join(folder, 'picture.mp4'), join(folder, 'voice.mp4')];
  await run('ffmpeg', [
    ...['-f', 'lavfi', '-i', `testsrc2=size=320x240:rate=30`, '-t', String(SECONDS)],
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-bf', '0', '-g', '30'],
    ...['-pix_fmt', 'yuv420p', ...fragmented, picture],
  ]);
  await run('ffmpeg', [
    ...['-f', 'lavfi', '-i', `aevalsrc=0.2*sin(2*PI*(300+100*floor(t))*t):s=48000:d=${SECONDS}`],
    ...['-c:a', 'aac', ...fragmented, voice],
  ]);
  await server.ask('POST', '/api/lessons', { id: LESSON, title: 'Set and drift' });
  await server.ask('POST', `/api/lessons/${LESSON}/takes`, {
    ...{ id: TAKE, source: 'screen', practice: false },
    tracks: [
      { id: `${TAKE}-surface`, kind: 'surface' },
      { id: `${TAKE}-voice`, kind: 'voice' },
    ],
  });
  await server.upload(`${TAKE}-surface`, await readFile(picture));
  await server.upload(`${TAKE}-voice`, await readFile(voice));
  await server.ask('POST', `/api/takes/${TAKE}/stop`, {});
  expect(await server.ingested(TAKE)).toBe('ready');
});
afterAll(async () => {
  goOn();
  await server.remove();
  await rm(folder, { recursive: true, force: true });
});

const bytesOf = async (path: string) => {
  const answer = await fetch(server.url + path);
  return {
    status: answer.status,
    type: answer.headers.get('Content-Type'),
    bytes: Buffer.from(await answer.arrayBuffer()),
  };
};
const shareLink = async (): Promise<ShareLink> =>
  (await server.ask('POST', `/api/lessons/${LESSON}/share-links`, { size: 'as-recorded' })).json;
const baseOf = async (token: string) => {
  const { json } = await server.ask('GET', `/api/watch/${token}`);
  const page = `/api/watch/${token}/stream/${json.stream}`;
  const ticket = server.parts.tickets.make({ token, version: json.stream });
  return { page, base: `/api/media/${ticket}`, watch: json };
};
const listed = (playlist: string) =>
  playlist.split('\n').filter((line) => line !== '' && !line.startsWith('#'));
const stateOf = async (id: string) => (await server.parts.films.get(id)).state;
const until = async (met: () => boolean | Promise<boolean>) => {
  for (let tries = 0; tries < 600; tries++) {
    if (await met()) return;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  throw new Error('it does not come to that');
};
/** Segments of a track, decoded as strictly as ffmpeg can. @returns frames, or packets */
const decoded = async (parts: readonly Buffer[]): Promise<number> => {
  const path = join(folder, 'joined.mp4');
  await writeFile(path, Buffer.concat(parts));
  const strict = ['-xerror', '-err_detect', 'explode', '-i', path];
  const out = await run('ffmpeg', [...strict, '-f', 'framecrc', 'pipe:1']);
  return out
    .toString()
    .split('\n')
    .filter((line) => line !== '' && !line.startsWith('#')).length;
};

let given: ShareLink;

it('is played from the moment it is handed out: the playlist is whole, and what is asked for is made next', async () => {
  given = await shareLink();
  const { page, base, watch } = await baseOf(given.token!);
  expect([watch.state === 'done', watch.aspect]).toEqual([false, 16 / 9]);
  const master = await bytesOf(`${page}/film.m3u8`);
  expect(master.type).toContain('application/vnd.apple.mpegurl');
  expect(againstMasterPlaylist(master.bytes.toString())).toEqual([]);
  const pictures = (await bytesOf(`${base}/picture.m3u8`)).bytes.toString();
  expect(againstMediaPlaylist(pictures)).toEqual([]);
  expect(againstMediaPlaylist((await bytesOf(`${base}/sound.m3u8`)).bytes.toString())).toEqual([]);
  expect(listed(pictures).length).toBeGreaterThan(6);

  // The fifth is made although nothing before it is.
  const began = Date.now();
  const head = await bytesOf(`${base}/picture/head.mp4`);
  const fifth = await bytesOf(`${base}/picture/5.m4s`);
  expect([head.status, fifth.status]).toEqual([200, 200]);
  expect(Date.now() - began).toBeLessThan(40_000);
  expect(await decoded([head.bytes, fifth.bytes])).toBe(80);
  expect(await stateOf(given.film.id)).toBe('making');
  const sound = await bytesOf(`${base}/sound/3.m4s`);
  const soundHead = (await bytesOf(`${base}/sound/head.mp4`)).bytes;
  expect(await decoded([soundHead, sound.bytes])).toBeGreaterThan(50);
  // A cover is there before the film is.
  expect((await bytesOf(`/api/watch/${given.token}/cover.jpg`)).type).toBe('image/jpeg');
});

it('goes on where it was after the server was killed, with what had been made', async () => {
  const { base } = await baseOf(given.token!);
  const before = (await bytesOf(`${base}/picture/5.m4s`)).bytes;
  const { home } = server.config.folders;
  await server.stop();
  server = await startTestServer({ home, work, coursePlayer: player });
  expect(await stateOf(given.film.id)).not.toBe('done');
  const after = await bytesOf(`${base}/picture/5.m4s`);
  expect(Buffer.compare(before, after.bytes)).toBe(0);
  expect((await bytesOf(`${base}/picture/2.m4s`)).status).toBe(200);
});

it('is joined of the same pieces, plays on out of the finished film, and is made for slow lines', async () => {
  const { page, base, watch } = await baseOf(given.token!);
  goOn();
  await until(async () => (await stateOf(given.film.id)) === 'done');
  // The pieces may be cleared away by then.
  await rm(server.config.folders.chunks, { recursive: true, force: true });
  for (const track of ['picture', 'sound']) {
    const list = (await bytesOf(`${base}/${track}.m3u8`)).bytes.toString();
    const parts = [(await bytesOf(`${base}/${track}/head.mp4`)).bytes];
    for (const uri of listed(list)) parts.push((await bytesOf(`${base}/${uri}`)).bytes);
    const frames = await decoded(parts);
    if (track === 'picture') expect(frames).toBe(Math.round((watch.filmUs * 30) / 1e6));
    else expect(Math.abs(frames - (SECONDS * 48_000) / 1_024)).toBeLessThan(3);
  }
  const narrow = server.parts.media.filmRendition(given.film.id);
  await until(() => existsSync(narrow));
  const master = (await bytesOf(`${page}/film.m3u8`)).bytes.toString();
  expect(againstMasterPlaylist(master)).toEqual([]);
  expect(master).toContain('RESOLUTION=640x360');
  const list = (await bytesOf(`${base}/narrow.m3u8`)).bytes.toString();
  expect(listed(list)).toHaveLength(
    listed((await bytesOf(`${base}/picture.m3u8`)).bytes.toString()).length,
  );
  const parts = [(await bytesOf(`${base}/narrow/head.mp4`)).bytes];
  for (const uri of listed(list)) parts.push((await bytesOf(`${base}/${uri}`)).bytes);
  expect(await decoded(parts)).toBe(Math.round((watch.filmUs * 30) / 1e6));
});

it('shows small pictures of it, each of its own moment', async () => {
  const { page, base, watch } = await baseOf(given.token!);
  const sheet = await bytesOf(`${page}/previews.jpg`);
  expect([sheet.status, sheet.type]).toEqual([200, 'image/jpeg']);
  const laid = previewSheet(watch.filmUs);
  const image = await loadImage(sheet.bytes);
  expect(laid.count).toBe(10);
  expect([image.width, image.height]).toEqual([160 * laid.columns, 90 * laid.rows]);
  const canvas = createCanvas(image.width, image.height);
  const context = canvas.getContext('2d');
  context.drawImage(image, 0, 0);
  // Segments begin with frames that stand by themselves: each picture is the last of those before its time.
  const list = (await bytesOf(`${base}/picture.m3u8`)).bytes.toString();
  let startS = 0;
  const starts = [...list.matchAll(/#EXTINF:([\d.]+)/g)].map(([, seconds]) => {
    startS += Number(seconds);
    return startS - Number(seconds);
  });
  const film = server.parts.media.film(given.film.id);
  const raw = ['-vf', 'scale=160:90:flags=area,format=rgba', '-f', 'rawvideo', '-'];
  const frames = await Promise.all(
    starts.map((at) =>
      run('ffmpeg', ['-ss', String(at), '-i', film, '-map', '0:v:0', '-frames:v', '1', ...raw]),
    ),
  );
  for (let column = 0; column < laid.count; column++) {
    const tile = context.getImageData(column * 160, 0, 160, 90).data;
    const unlike = frames.map((frame) =>
      tile.reduce((sum, value, place) => sum + Math.abs(value - frame[place]!), 0),
    );
    const atS = (laid.everyUs * column) / 1e6 + 0.001;
    expect(unlike.indexOf(Math.min(...unlike))).toBe(starts.findLastIndex((at) => at <= atS));
  }
});

it('gives its pieces by addresses that are over within minutes, and tell nobody the link', async () => {
  const { page } = await baseOf(given.token!);
  const listedIn = async (path: string) => listed((await bytesOf(path)).bytes.toString());
  const [track] = await listedIn(`${page}/film.m3u8`);
  expect(track).toMatch(/^\/api\/media\/[\w-]+\/picture\.m3u8$/);
  expect(track).not.toContain(given.token!);
  expect((await bytesOf(track!)).status).toBe(200);
  const { status, json, headers } = await server.ask('GET', `${page}/ticket`);
  expect([status, json.forMs, headers.get('cache-control')]).toEqual([200, TICKET_MS, 'no-store']);
  const segment = (ticket: string) => `/api/media/${ticket}/picture/0.m4s`;
  expect((await bytesOf(segment(json.ticket))).status).toBe(200);
  // Minutes later; and one that was made longer by hand.
  const { tickets } = server.parts;
  const version = page.slice(-40);
  const then = Date.now() - TICKET_MS - 1_000;
  const late = tickets.make({ token: given.token!, version }, TICKET_MS, then);
  const answer = await server.ask('GET', segment(late));
  expect([answer.status, answer.json.code]).toEqual([410, 'ticket-over']);
  expect((await bytesOf(segment(`${late}AA`))).status).toBe(404);
  // Where the browser reads the playlist, nobody can give it another.
  const alone = (await listedIn(`${page}/film.m3u8?alone=1`))[0]!.split('/')[3]!;
  expect(tickets.open(alone, Date.now() + 3_600_000).version).toBe(version);
  const short = track!.split('/')[3]!;
  expect(() => tickets.open(short, Date.now() + 3_600_000)).toThrow();
});

it('gives nothing else: no other film, no place outside of it, nothing by a link that was taken away', async () => {
  const { page, base } = await baseOf(given.token!);
  const version = 'a'.repeat(40);
  const other = page.replace(/[0-9a-f]{40}$/, version);
  const { tickets } = server.parts;
  const ticket = tickets.make({ token: given.token!, version });
  const nobodys = tickets.make({ token: 'A'.repeat(22), version: page.slice(-40) });
  for (const path of [
    ...[`${other}/previews.jpg`, `${other}/film.m3u8`, `${other}/ticket`],
    ...[`/api/media/${ticket}/picture.m3u8`, `/api/media/${ticket}/picture/0.m4s`],
    ...[`/api/media/${nobodys}/picture.m3u8`, `/api/media/${nobodys}/picture/0.m4s`],
    // A link is no ticket.
    ...[`/api/media/${given.token}/picture.m3u8`, `${page}/picture.m3u8`, `${page}/picture/0.m4s`],
    ...[`${base}/picture/9999.m4s`, `${base}/picture/-1.m4s`, `${base}/camera/0.m4s`],
    ...[`${base}/../picture/0.m4s`, `${base}/picture/0.mp4`, `${base}/picture/%2e%2e%2f0.m4s`],
  ]) {
    expect([path, (await bytesOf(path)).status]).toEqual([path, 404]);
  }
  await server.ask('DELETE', `/api/share-links/${given.id}`);
  for (const path of [
    ...['film.m3u8', 'previews.jpg', 'ticket'].map((name) => `${page}/${name}`),
    ...['picture.m3u8', 'picture/head.mp4', 'picture/0.m4s'].map((name) => `${base}/${name}`),
  ]) {
    expect([path, (await bytesOf(path)).status]).toEqual([path, 404]);
  }
  await server.ask('POST', `/api/share-links/${given.id}/restore`);
  expect((await bytesOf(`${base}/picture/0.m4s`)).status).toBe(200);
});

it('is mended under the same link: a reload shows the new film, and whoever watches goes on with the old', async () => {
  const before = await baseOf(given.token!);
  await server.edit(LESSON, { do: 'cut', takeId: TAKE, startUs: 0, endUs: 3_000_000 });
  const again = await server.ask('POST', `/api/share-links/${given.id}/versions`, {
    size: 'as-recorded',
  });
  expect([again.json.id, again.json.token, again.json.given.length]).toEqual([
    ...[given.id, given.token, 2],
  ]);
  const after = await baseOf(given.token!);
  expect(after.watch.filmUs).toBe(before.watch.filmUs - 3_000_000);
  expect(after.page).not.toBe(before.page);
  expect((await bytesOf(`${after.base}/picture/0.m4s`)).status).toBe(200);
  expect((await bytesOf(`${before.base}/picture/0.m4s`)).status).toBe(200);
  // So does who takes the whole file.
  const whole = (page: string) => `/api/watch/${given.token}/film.mp4?version=${page.slice(-40)}`;
  expect((await bytesOf(whole(before.page))).status).toBe(200);
  expect((await bytesOf(whole('a'.repeat(40)))).status).toBe(404);
  // A day later nobody watches it still: what was cut out can't be had any more.
  await server.inDatabase((knex) =>
    knex('link_versions').update({ published_at: new Date(Date.now() - 86_400_000).toISOString() }),
  );
  expect((await bytesOf(`${before.base}/picture/0.m4s`)).status).toBe(404);
  expect((await bytesOf(whole(before.page))).status).toBe(404);
  expect((await bytesOf(`${after.base}/picture/0.m4s`)).status).toBe(200);

  // The older one put back, then the newer again.
  const [newer, older] = again.json.given;
  const back = await server.ask('POST', `/api/share-links/${given.id}/restore-version`, {
    givenId: older.id,
  });
  expect(back.json.given.map(({ current }: { current: boolean }) => current)).toEqual([
    ...[true, false, false],
  ]);
  expect((await baseOf(given.token!)).page).toBe(before.page);
  await server.ask('POST', `/api/share-links/${given.id}/restore-version`, { givenId: newer.id });
  expect((await baseOf(given.token!)).page).toBe(after.page);
  const foreign = await server.ask('POST', `/api/share-links/${given.id}/restore-version`, {
    givenId: 'given-to-somebody-else',
  });
  expect(foreign.status).toBe(404);

  // Whoever has the older one open goes on with it, unless its teacher stops it: what was cut out can't be had from then on.
  const goesOn = async (): Promise<boolean[]> => {
    const { json } = await server.ask('GET', `/api/lessons/${LESSON}/share-links`);
    const { given: all } = (json as ShareLink[]).find(({ id }) => id === given.id)!;
    return all.map(({ goesOnUntil }) => goesOnUntil !== null);
  };
  expect(await goesOn()).toEqual([false, true, false, false]);
  expect((await bytesOf(`${before.base}/picture/0.m4s`)).status).toBe(200);
  expect((await server.ask('POST', `/api/share-links/${given.id}/end-earlier`, {})).status).toBe(
    200,
  );
  expect(await goesOn()).toEqual([false, false, false, false]);
  expect((await bytesOf(`${before.base}/picture/0.m4s`)).status).toBe(404);
  expect((await bytesOf(whole(before.page))).status).toBe(404);
  expect((await bytesOf(`${after.base}/picture/0.m4s`)).status).toBe(200);
  // It can be given again all the same.
  await server.ask('POST', `/api/share-links/${given.id}/restore-version`, { givenId: older.id });
  expect((await bytesOf(`${before.base}/picture/0.m4s`)).status).toBe(200);
  await server.ask('POST', `/api/share-links/${given.id}/restore-version`, { givenId: newer.id });
});

it('has files that are called as the lesson is now, and no two the same', async () => {
  const names = async () =>
    ((await server.ask('GET', `/api/lessons/${LESSON}/films`)).json as FilmRow[]).map(
      ({ fileName }) => fileName,
    );
  expect(await names()).toEqual(['Set and drift.mp4', 'Set and drift (earlier).mp4']);
  await server.edit(LESSON, { do: 'plan', set: { className: 'Coastal', unit: 'Week 4' } });
  const now = 'Set and drift - Coastal - Week 4';
  expect(await names()).toEqual([`${now}.mp4`, `${now} (earlier).mp4`]);
  const [, { id }] = (await server.ask('GET', `/api/lessons/${LESSON}/films`)).json;
  const { headers } = await fetch(`${server.url}/api/films/${id}/file`);
  expect(headers.get('Content-Disposition')).toContain(`"${now} (earlier).mp4"`);
  await server.edit(LESSON, { do: 'plan', set: { className: '', unit: '' } });
  expect(await names()).toEqual(['Set and drift.mp4', 'Set and drift (earlier).mp4']);
});

it('is saved where its teacher lets students, and nowhere else', async () => {
  const save = (form: string) => bytesOf(`/api/watch/${given.token}/save/${form}`);
  await until(async () => (await bytesOf(`/api/watch/${given.token}/film.mp4`)).status === 200);
  expect((await save('mp4')).status).toBe(404);
  const { json } = await server.ask('POST', `/api/share-links/${given.id}/downloads`, {
    downloads: true,
  });
  expect(json.downloads).toBe(true);
  expect((await baseOf(given.token!)).watch.downloads).toBe(true);
  const film = await save('mp4');
  expect([film.status, film.type]).toEqual([200, 'video/mp4']);
  expect(film.bytes.length).toBeGreaterThan(10_000);
  for (const form of ['m4a', 'mp3']) expect((await save(form)).bytes.length).toBeGreaterThan(5_000);
  for (const form of ['wav', 'mp4%2f..', 'links.key']) expect((await save(form)).status).toBe(404);
  await server.ask('POST', `/api/share-links/${given.id}/downloads`, { downloads: false });
  expect((await save('mp3')).status).toBe(404);
});

it('gives materials along that its teacher chose, to be saved and not shown, and no others', async () => {
  const { materials } = server.parts;
  const { materials: kept } = server.config.folders;
  await mkdir(kept, { recursive: true });
  await server.ask('POST', '/api/lessons', { id: 'lesson-other', title: 'Other' });
  const bring = async (lessonId: string, id: string, name: string, sign: string) => {
    const bytes = Buffer.from(`<script>alert("${id}")</script>`);
    await writeFile(join(kept, sign.repeat(64)), bytes);
    await materials.create(lessonId, { id, name });
    await materials.came(id, sign.repeat(64), bytes.length);
    return bytes.length;
  };
  const bytes = await bring(LESSON, 'material-table', 'Tide “table”.html', 'a');
  await bring(LESSON, 'material-answers', 'Answers.html', 'b');
  await bring('lesson-other', 'material-other', 'Somebody else’s.html', 'c');
  const at = (number: string) =>
    fetch(`${server.url}/api/watch/${given.token}/materials/${number}`);
  const told = async () => (await baseOf(given.token!)).watch.materials;
  expect([await told(), (await at('0')).status]).toEqual([[], 404]);
  const { json } = await server.ask('POST', `/api/share-links/${given.id}/materials`, {
    materials: ['material-other', 'material-table', 'material-none'],
  });
  expect(json.materials).toContain('material-table');
  expect(await told()).toEqual([{ name: 'Tide “table”.html', bytes }]);
  const saved = await at('0');
  expect(saved.headers.get('content-type')).toBe('application/octet-stream');
  expect(saved.headers.get('content-disposition')).toContain('attachment');
  expect(saved.headers.get('x-content-type-options')).toBe('nosniff');
  expect(await saved.text()).toContain('material-table');
  for (const number of ['1', '2', '-1', 'a', '..%2f0'])
    expect([number, (await at(number)).status]).toEqual([number, 404]);
  await materials.remove('material-table', true);
  expect([await told(), (await at('0')).status]).toEqual([[], 404]);
});

it('is had with all that there is of it as one archive, by its teacher alone', async () => {
  const { film } = (await server.ask('GET', `/api/lessons/${LESSON}/share-links`)).json[0];
  await until(async () => (await stateOf(film.id)) === 'done');
  const { films } = server.parts;
  const { words } = await films.get(film.id);
  const cue = { startUs: 1_000_000, endUs: 3_000_000, text: 'The stream sets to the north.' };
  const captions = [{ language: 'en', cues: [{ ...cue, words: null }] }];
  await films.keepWords(film.id, { ...JSON.parse(words!), captions });
  const answer = await bytesOf(`/api/films/${film.id}/film.zip`);
  expect([answer.status, answer.type]).toEqual([200, 'application/zip']);
  const files = await filesIn(answer.bytes);
  const name = 'Set and drift';
  expect([...files.keys()].sort()).toEqual(
    [
      ...[`${name}.mp4`, `${name}.m4a`, `${name}.mp3`, `${name}.jpg`],
      ...['vtt', 'srt', 'txt', 'html'].map((form) => `${name} en.${form}`),
    ].sort(),
  );
  expect(files.get(`${name}.mp4`)!.equals(await readFile(server.parts.media.film(film.id)))).toBe(
    true,
  );
  expect(files.get(`${name} en.vtt`)!.toString()).toContain('The stream sets to the north.');
  expect(files.get(`${name}.jpg`)!.subarray(0, 2).toString('hex')).toBe('ffd8');
  expect((await bytesOf('/api/films/film-of-nobody/film.zip')).status).toBe(404);
});

it('is had as a package for a course site, which keeps to its schemas and asks for nothing from elsewhere', async () => {
  const { film } = (await server.ask('GET', `/api/lessons/${LESSON}/share-links`)).json[0];
  const { bytes, status } = await bytesOf(`/api/films/${film.id}/scorm-1.2.zip`);
  expect(status).toBe(200);
  const files = await filesIn(bytes);
  const manifest = files.get('imsmanifest.xml')!.toString();
  const schema = (name: string) => ({ fileName: name, contents: files.get(name)!.toString() });
  const check = (xml: string) =>
    validateXML({
      xml: [{ fileName: 'imsmanifest.xml', contents: xml }],
      schema: [schema('adlcp_rootv1p2.xsd')],
      preload: SCHEMAS.filter((name) => name !== 'adlcp_rootv1p2.xsd').map(schema),
    });
  const { valid, errors } = await check(manifest);
  expect([valid, errors]).toEqual([true, []]);
  // It is looked at: what the standard doesn't know is told.
  expect((await check(manifest.replaceAll('scormtype="sco"', 'scormtype="film"'))).valid).toBe(
    false,
  );
  expect((await check(manifest.replace(' href="index.html">', ' where="x">'))).valid).toBe(false);
  // All that it names is there, and nothing that it doesn't name but itself and its schemas.
  const named = [...manifest.matchAll(/<file href="([^"]+)"/g)].map(([, name]) => name!);
  expect([...named, 'imsmanifest.xml', ...SCHEMAS].sort()).toEqual([...files.keys()].sort());
  const page = files.get('index.html')!.toString();
  expect(page).toContain('<title>Set and drift</title>');
  expect(`${page}${files.get('player.js')!.toString()}`).not.toMatch(/https?:|\/api\//);
  expect(files.get('film.mp4')!.equals(await readFile(server.parts.media.film(film.id)))).toBe(
    true,
  );
  expect((await bytesOf('/api/films/film-of-nobody/scorm-1.2.zip')).status).toBe(404);
});

it('is had with the other films of its unit, as pages that need nothing from elsewhere', async () => {
  const units = [
    { id: 'unit-streams', name: 'Week 2: streams?' },
    { id: 'unit-empty', name: 'Week 3' },
  ];
  await server.ask('POST', '/api/classes', { id: 'class-nav', name: 'Navigation', units });
  await server.edit(LESSON, {
    do: 'plan',
    set: { className: 'Navigation', unit: units[0]!.name },
  });
  const [{ id, film }] = (await server.ask('GET', `/api/lessons/${LESSON}/share-links`)).json;
  const at = (unit: string) => `/api/classes/class-nav/units/${unit}`;
  const counted = async (unit: string) => (await server.ask('GET', at(unit))).json;
  // For anyone with the link: on the page of no class.
  expect(await counted('unit-streams')).toEqual({ ready: 0, waiting: 0 });
  expect((await bytesOf(`${at('unit-streams')}/films.zip`)).status).toBe(409);
  const toClass = {
    grantee: { is: 'class', classId: 'class-nav' },
    availableFrom: null,
    availableUntil: null,
  };
  const { status } = await server.ask('POST', `/api/share-links/${id}/audience`, {
    grants: [toClass],
  });
  expect(status).toBe(200);
  expect(await counted('unit-streams')).toEqual({ ready: 1, waiting: 0 });
  expect(await counted('unit-empty')).toEqual({ ready: 0, waiting: 0 });
  expect((await server.ask('GET', at('unit-of-nobody'))).status).toBe(404);

  const answer = await bytesOf(`${at('unit-streams')}/films.zip`);
  expect([answer.status, answer.type]).toEqual([200, 'application/zip']);
  const files = await filesIn(answer.bytes);
  const folder = '01 Set and drift';
  expect([...files.keys()].sort()).toEqual([
    ...['captions en.vtt', 'cover.jpg', 'film.mp4', 'index.html', 'transcript en.html'].map(
      (name) => `${folder}/${name}`,
    ),
    'index.html',
  ]);
  const whole = await readFile(server.parts.media.film(film.id));
  expect(files.get(`${folder}/film.mp4`)!.equals(whole)).toBe(true);
  expect(files.get('index.html')!.toString()).toContain('<h1>Week 2: streams?</h1>');
  const page = files.get(`${folder}/index.html`)!.toString();
  expect(page).toContain(encodeURIComponent('The stream sets to the north.'));
  expect(page).not.toMatch(/https?:|\/api\//);

  // The same for a course site, which makes pages of its own of it.
  const cartridge = await bytesOf(`${at('unit-streams')}/films.imscc`);
  expect([cartridge.status, cartridge.type]).toEqual([200, 'application/zip']);
  const inIt = await filesIn(cartridge.bytes);
  const manifest = inIt.get('imsmanifest.xml')!.toString();
  const schema = join(__dirname, '..', 'testing', 'common-cartridge-1.3.xsd');
  const check = async (xml: string) =>
    validateXML({
      xml: [{ fileName: 'imsmanifest.xml', contents: xml }],
      schema: [{ fileName: 'cc.xsd', contents: await readFile(schema, 'utf8') }],
    });
  const { valid, errors } = await check(manifest);
  expect([valid, errors]).toEqual([true, []]);
  expect((await check(manifest.replace('"film-1">', '"film-9">'))).valid).toBe(false);
  const named = [...manifest.matchAll(/<file href="([^"]+)"/g)].map(([, href]) =>
    decodeURIComponent(href!),
  );
  expect([...named, 'imsmanifest.xml'].sort()).toEqual([...inIt.keys()].sort());
  expect(inIt.get(`${folder}/film.mp4`)!.equals(whole)).toBe(true);
  expect(inIt.get(`${folder}/index.html`)!.toString()).not.toMatch(/https?:|\/api\/|\.\.\//);
  // What was taken away isn't among them.
  await server.ask('DELETE', `/api/share-links/${id}`);
  expect(await counted('unit-streams')).toEqual({ ready: 0, waiting: 0 });
  await server.ask('POST', `/api/share-links/${id}/restore`);
  await server.ask('POST', `/api/share-links/${id}/audience`, {
    grants: [{ grantee: { is: 'anyone' }, availableFrom: null, availableUntil: null }],
  });
});

it('opens and closes at its time, and says so', async () => {
  const { page, base } = await baseOf(given.token!);
  const at = (ms: number) => new Date(Date.now() + ms).toISOString();
  const open = (availableFrom: string | null, availableUntil: string | null) =>
    server.ask('POST', `/api/share-links/${given.id}/open`, { availableFrom, availableUntil });
  const soon = at(1_500);
  expect((await open(soon, null)).json).toMatchObject({ state: 'not-yet', availableFrom: soon });
  const early = await server.ask('GET', `/api/watch/${given.token}`);
  expect([early.status, early.json.code, early.json.when]).toEqual([403, 'not-open-yet', soon]);
  expect((await bytesOf(`${base}/picture/0.m4s`)).status).toBe(403);
  await until(async () => (await bytesOf(`${base}/picture/0.m4s`)).status === 200);

  const past = at(-1_000);
  expect((await open(null, past)).json).toMatchObject({ state: 'over', availableUntil: past });
  expect((await bytesOf(`${page}/film.m3u8`)).status).toBe(410);
  expect((await server.ask('GET', `/api/watch/${given.token}/film.mp4`)).status).toBe(410);
  expect((await open(at(9_000), at(8_000))).status).toBe(400);
  expect((await open('next week', null)).status).toBe(400);
  expect((await open(null, null)).json.state).toBe('open');
  expect((await bytesOf(`${page}/film.m3u8`)).status).toBe(200);
});
