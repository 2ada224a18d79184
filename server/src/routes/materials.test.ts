import { createCanvas, loadImage, type Canvas } from '@napi-rs/canvas';
import type { ClassMaterial, KeptMaterial, Material } from '@under-chalk/core/material/material';
import { existsSync, readdirSync } from 'node:fs';
import { createServer, type AddressInfo } from 'node:net';
import { readFile } from 'node:fs/promises';
import PDFDocument from 'pdfkit';
import { buffer } from 'node:stream/consumers';
import { canOpenOffice } from '../jobs/materials/office';
import { docx } from '../testing/office-file';
import { builtScript } from '../testing/built-scripts';
import { startTestServer, type TestServer } from '../testing/test-server';

jest.setTimeout(120_000);

let reader: string;
let server: TestServer;

beforeAll(async () => {
  reader = builtScript('reader/reader-process.mjs');
  server = await startTestServer({ readerScript: reader });
});
afterAll(async () => {
  await server.remove();
});

const LESSON = 'lesson-of-materials';
beforeAll(() => server.ask('POST', '/api/lessons', { id: LESSON, title: 'Tides' }));

const pdf = async (pages: number, options: PDFKit.PDFDocumentOptions = {}): Promise<Buffer> => {
  const doc = new PDFDocument({ size: [960, 540], margin: 40, ...options });
  const written = buffer(doc);
  for (let page = 0; page < pages; page++) {
    if (page > 0) doc.addPage();
    doc.rect(0, 0, 480, 540).fill(page % 2 === 0 ? '#c00000' : '#0000c0');
    doc.fillColor('#000').text(`Page ${page + 1}: springs and neaps`, 500, 60);
  }
  doc.end();
  return written;
};

let count = 0;
/** Brings a file in, and waits until it is read. */
const bring = async (name: string, bytes: Buffer): Promise<Material> => {
  const id = `material-${100 + count++}`;
  const begun = await server.ask('POST', `/api/lessons/${LESSON}/materials`, { id, name });
  expect([begun.status, begun.json.state]).toEqual([200, 'coming']);
  await server.upload(id, bytes);
  let { json } = await server.ask('POST', `/api/materials/${id}/read`, {});
  for (let times = 0; json.state === 'reading' && times < 200; times++) {
    await new Promise((resolve) => setTimeout(resolve, 100));
    json = (await server.ask('POST', `/api/materials/${id}/read`, {})).json;
  }
  return json;
};

const picture = async (content: string, page: number, width: number) => {
  const response = await fetch(`${server.url}/api/pages/${content}/${page}?width=${width}`);
  expect([response.status, response.headers.get('content-type')]).toEqual([200, 'image/webp']);
  const image = await loadImage(Buffer.from(await response.arrayBuffer()));
  const canvas = createCanvas(image.width, image.height);
  canvas.getContext('2d').drawImage(image, 0, 0);
  return canvas;
};

const colourAt = (canvas: Canvas, x: number, y: number) => [
  ...canvas.getContext('2d').getImageData(x, y, 1, 1).data.slice(0, 3),
];

it('shows the pages of a PDF in any of the widths, and says what stands on them', async () => {
  const { id, state, aspects, content, dark, bytes } = await bring('Week four.pdf', await pdf(3));
  expect({ state, aspects, dark }).toEqual({
    state: 'ready',
    aspects: [16 / 9, 16 / 9, 16 / 9],
    dark: false,
  });
  expect(bytes).toBeGreaterThan(500);
  for (const width of [480, 1920]) {
    const page = await picture(content!, 1, width);
    expect([page.width, page.height]).toEqual([width, (width * 9) / 16]);
    const [red, , blue] = colourAt(page, width / 4, 100);
    expect(red).toBeLessThan(30);
    expect(blue).toBeGreaterThan(170);
  }
  const words = async () =>
    (await server.ask('GET', `/api/materials/${id}/words`)).json as string[];
  for (let times = 0; (await words()).length === 0 && times < 100; times++) {
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  expect((await words())[2]).toContain('Page 3: springs and neaps');
  expect((await fetch(`${server.url}/api/pages/${content}/3?width=480`)).status).toBe(404);
  expect((await fetch(`${server.url}/api/pages/${content}/0?width=481`)).status).toBe(400);
});

it('takes Markdown, text, drawings and pictures, each as what it is', async () => {
  const photo = createCanvas(300, 400);
  photo.getContext('2d').fillRect(0, 0, 300, 400);
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="400" height="200"><script>x()</script>
    <rect width="400" height="200" fill="#00ff00"/><text x="9" y="99">Estuary</text></svg>`;
  const found = [
    await bring('notes.md', Buffer.from('# Springs\n\n- one\n- two\n\n# Neaps\n\nSlack.')),
    await bring('notes.txt', Buffer.from('# Springs\n\n- one\n- two\n\n# Neaps\n\nSlack.')),
    await bring('estuary.svg', Buffer.from(svg)),
    await bring('work.jpg', await photo.encode('jpeg')),
    await bring('work.avif', await photo.encode('avif')),
  ];
  expect(found.map(({ state, problem, aspects }) => [state, problem, aspects])).toEqual([
    ['ready', null, [16 / 9, 16 / 9]],
    ['ready', null, [16 / 9]],
    ['ready', null, [2]],
    ['ready', null, [0.75]],
    ['ready', null, [0.75]],
  ]);
  expect(found.map(({ dark }) => dark)).toEqual([false, false, false, true, true]);
  expect(colourAt(await picture(found[2]!.content!, 0, 480), 400, 20)[1]).toBeGreaterThan(240);
});

it('tells what can’t be shown for what it is, and goes on', async () => {
  const locked = await pdf(1, { userPassword: 'tide', ownerPassword: 'tides' });
  const found = [
    await bring('empty.pdf', Buffer.alloc(0)).catch(() => null),
    await bring('a film.mp4', Buffer.from('....ftypisom and nothing else')),
    await bring(
      'page.mhtml',
      Buffer.from('From: x\r\nContent-Type: multipart/related; boundary="a"\r\n\r\n--a--'),
    ),
    await bring('locked.pdf', locked),
    await bring('torn.pdf', (await pdf(2)).subarray(0, 300)),
    await bring('long.pdf', await pdf(1_001)),
    await bring('torn.png', Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 1, 2, 3])),
  ];
  expect(found.slice(1).map((one) => [one!.state, one!.problem])).toEqual([
    ['unusable', 'file-not-material'],
    ['unusable', 'material-unreadable'],
    ['unusable', 'material-locked'],
    ['unusable', 'material-unreadable'],
    ['unusable', 'material-too-long'],
    ['unusable', 'material-unreadable'],
  ]);
  expect((await bring('after.pdf', await pdf(1))).state).toBe('ready');
});

it('opens files of office programs where LibreOffice is, and says so where it is not', async () => {
  let asked = 0;
  const elsewhere = createServer((socket) => {
    asked++;
    socket.destroy();
  });
  await new Promise<void>((resolve) => elsewhere.listen(0, '127.0.0.1', resolve));
  const { port } = elsewhere.address() as AddressInfo;
  try {
    const file = docx('Springs and neaps', `http://127.0.0.1:${port}/picture.png`);
    const { id, state, problem, aspects, content } = await bring('Week four.docx', file);
    if (!canOpenOffice()) {
      expect([state, problem]).toEqual(['unusable', 'office-missing']);
      return;
    }
    expect([state, problem, aspects.length]).toEqual(['ready', null, 1]);
    expect(aspects[0]).toBeLessThan(1);
    expect((await picture(content!, 0, 480)).width).toBe(480);
    const words = async () =>
      (await server.ask('GET', `/api/materials/${id}/words`)).json as string[];
    for (let times = 0; (await words()).length === 0 && times < 100; times++) {
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    expect((await words())[0]).toContain('Springs and neaps');
    // What it wants from elsewhere it doesn't get.
    expect(asked).toBe(0);
    expect((await bring('torn.docx', file.subarray(0, 90))).state).toBe('unusable');
    expect((await bring('really.docx', await pdf(1))).state).toBe('ready');
  } finally {
    elsewhere.close();
  }
});

it('is taken out and brought back; its file goes when no lesson has it any more', async () => {
  const other = 'lesson-of-another';
  await server.ask('POST', '/api/lessons', { id: other, title: 'Other' });
  const { id, content } = await bring('kept.pdf', await pdf(4));
  await server.ask('POST', `/api/lessons/${LESSON}/duplicate`, { id: 'lesson-copied' });
  const names = async (lesson: string) =>
    ((await server.ask('GET', `/api/lessons/${lesson}/materials`)).json as Material[]).map(
      ({ name }) => name,
    );
  expect(await names('lesson-copied')).toContain('kept.pdf');
  await server.ask('POST', `/api/materials/${id}/remove`, {});
  expect(await names(LESSON)).not.toContain('kept.pdf');
  await server.ask('POST', `/api/materials/${id}/restore`, {});
  expect(await names(LESSON)).toContain('kept.pdf');
  const { materials } = server.config.folders;
  const has = () => readdirSync(materials).some((name) => name.startsWith(content!));
  for (const lesson of [LESSON, 'lesson-copied']) {
    expect(has()).toBe(true);
    await server.ask('POST', `/api/bin/lesson/${lesson}`, {});
    await server.ask('DELETE', `/api/bin/lesson/${lesson}`);
  }
  expect(has()).toBe(false);
  await server.ask('POST', '/api/lessons', { id: LESSON, title: 'Tides' });
});

it('is brought into another lesson without being sent again, and described once', async () => {
  const photo = createCanvas(90, 60);
  const { id, content } = await bring('Bram.png', await photo.encode('png'));
  const words = 'A course with a triangle of the stream.';
  const describe = (text: string) =>
    server.ask('POST', `/api/materials/${id}/describe`, { words: text });
  expect((await describe(' ')).status).toBe(400);
  expect((await describe(words)).status).toBe(200);
  const slides = await bring('two.pdf', await pdf(2));
  const refused = await server.ask('POST', `/api/materials/${slides.id}/describe`, { words });
  expect(refused.status).toBe(409);

  await server.ask('POST', '/api/lessons', { id: 'lesson-next', title: 'Next' });
  const kept = (await server.ask('GET', '/api/materials')).json as KeptMaterial[];
  expect(kept.filter((one) => one.content === content)).toEqual([
    { id, name: 'Bram.png', content, pages: 1, lesson: 'Tides', className: '' },
  ]);
  const again = await server.ask('POST', '/api/lessons/lesson-next/materials/again', {
    ...{ id: 'material-again', of: id },
  });
  expect([again.status, again.json.state, again.json.content]).toEqual([200, 'ready', content]);
  expect((await server.ask('GET', '/api/materials/material-again/words')).json).toEqual([words]);
  const unknown = await server.ask('POST', '/api/lessons/lesson-next/materials/again', {
    ...{ id: 'material-more', of: 'material-none' },
  });
  expect(unknown.status).toBe(404);
});

it('is kept for a class, whatever becomes of the lesson that it was brought into', async () => {
  const className = 'Evening class / Tides';
  const kept = async () =>
    (await server.ask('GET', `/api/classes/${encodeURIComponent(className)}/materials`))
      .json as ClassMaterial[];
  const keep = (id: string, of = className) =>
    server.ask('POST', `/api/materials/${id}/keep`, { className: of });
  await server.ask('POST', '/api/lessons', { id: 'lesson-short', title: 'Short' });
  const { id: first, content } = await bring('slides.pdf', await pdf(4));
  const short = await server.ask('POST', '/api/lessons/lesson-short/materials/again', {
    ...{ id: 'material-short', of: first },
  });
  expect([short.status, await kept()]).toEqual([200, []]);
  expect((await keep('material-short', ' ')).status).toBe(400);
  expect((await keep('material-none')).status).toBe(404);
  // Twice is once.
  for (const id of ['material-short', first]) expect((await keep(id)).status).toBe(200);
  const [one, ...more] = await kept();
  expect([one, more]).toEqual([{ id: one!.id, name: 'slides.pdf', content, pages: 4 }, []]);

  // Its lessons go for good, and what the class keeps is still there.
  for (const id of ['material-short', first]) {
    await server.inDatabase((db) => db('materials').where({ id }).delete());
  }
  await server.ask('POST', '/api/bin/lesson/lesson-short');
  expect((await server.ask('DELETE', '/api/bin/lesson/lesson-short')).status).toBe(200);
  expect((await picture(content!, 3, 480)).width).toBe(480);
  await server.ask('POST', '/api/lessons', { id: 'lesson-later', title: 'Later' });
  const again = await server.ask('POST', '/api/lessons/lesson-later/materials/again', {
    ...{ id: 'material-later', of: one!.id },
  });
  expect([again.status, again.json.content, again.json.aspects.length]).toEqual([200, content, 4]);

  const change = (isKept: boolean) =>
    server.ask('POST', `/api/class-materials/${one!.id}`, { kept: isKept });
  expect([(await change(false)).status, await kept()]).toEqual([200, []]);
  expect([(await change(true)).status, (await kept()).length]).toEqual([200, 1]);
});

it('takes pages of the web that were saved as one file, and nothing from elsewhere', async () => {
  let asked = 0;
  const elsewhere = createServer((socket) => {
    asked++;
    socket.destroy();
  });
  await new Promise<void>((resolve) => elsewhere.listen(0, '127.0.0.1', resolve));
  const from = `http://127.0.0.1:${(elsewhere.address() as AddressInfo).port}`;
  const photo = createCanvas(400, 300);
  photo.getContext('2d').fillStyle = '#00a000';
  photo.getContext('2d').fillRect(0, 0, 400, 300);
  const green = (await photo.encode('png')).toString('base64');
  const page = (
    picture: string,
  ) => `<!doctype html><html><head><meta charset="utf-8"><title>Tides</title>
    <link rel="stylesheet" href="${from}/a.css"><script src="${from}/b.js"></script></head>
    <body><nav>Home</nav><p>Springs are <b>large</b>, <span hidden>secretly</span> neaps small: r\u00e9sum\u00e9.</p>
    <table><tr><th>Hour</th><th>Rise</th></tr><tr><td>1<script>inCell()</script></td><td>one twelfth</td></tr></table>
    <img src="${picture}" alt="The estuary"><img src="${from}/c.png" alt="A wall that is elsewhere">
    <iframe src="${from}/d"></iframe></body></html>`;
  const archive = [
    'From: <Saved by a browser>',
    'MIME-Version: 1.0',
    'Content-Type: multipart/related;',
    '\ttype="text/html"; boundary="--edge--"',
    '',
    '----edge--',
    'Content-Type: text/html',
    'Content-Transfer-Encoding: base64',
    `Content-Location: ${from}/week/four.html`,
    '',
    Buffer.from(page('../pictures/green.png')).toString('base64').replace(/.{76}/g, '$&\r\n'),
    '----edge--',
    'Content-Type: image/png',
    'Content-Transfer-Encoding: base64',
    `Content-Location: ${from}/pictures/green.png`,
    '',
    green.replace(/.{76}/g, '$&\r\n'),
    '----edge----',
    '',
  ].join('\r\n');
  try {
    const found = [
      await bring('four.html', Buffer.from(page(`data:image/png;base64,${green}`))),
      await bring('four.mhtml', Buffer.from(archive)),
    ];
    expect(found.map(({ state, problem }) => [state, problem])).toEqual([
      ['ready', null],
      ['ready', null],
    ]);
    for (const { id, aspects, content } of found) {
      expect(aspects.every((aspect) => aspect === 16 / 9)).toBe(true);
      let words: string[] = [];
      for (let times = 0; words.length === 0 && times < 100; times++) {
        words = (await server.ask('GET', `/api/materials/${id}/words`)).json;
        await new Promise((resolve) => setTimeout(resolve, 50));
      }
      const all = words.join('\n');
      for (const said of [
        ...['Tides', 'Springs are large, neaps small: r\u00e9sum\u00e9.', 'one twelfth'],
        ...['The estuary', '[A wall that is elsewhere]'],
      ]) {
        expect(all).toContain(said);
      }
      for (const unsaid of ['Home', 'secretly', 'inCell']) expect(all).not.toContain(unsaid);
      const shown = words.findIndex((on) => on.split('\n').includes('The estuary'));
      const canvas = await picture(content!, shown, 960);
      const { data } = canvas.getContext('2d').getImageData(0, 0, 960, 540);
      let greens = 0;
      for (let at = 0; at < data.length; at += 4) {
        if (data[at]! < 40 && data[at + 1]! > 130 && data[at + 2]! < 40) greens++;
      }
      expect(greens).toBeGreaterThan(20_000);
    }
    expect(asked).toBe(0);
  } finally {
    elsewhere.close();
  }
});

it('is read when the server starts again, where it was stopped in between', async () => {
  const { id, content } = await bring('again.pdf', await pdf(2));
  await server.inDatabase((db) =>
    db('materials').where({ id }).update({ state: 'reading', aspects: '[]' }),
  );
  const home = server.config.folders.home;
  await server.stop();
  server = await startTestServer({ readerScript: reader, home });
  let material: Material | undefined;
  for (let times = 0; material?.state !== 'ready' && times < 100; times++) {
    await new Promise((resolve) => setTimeout(resolve, 100));
    const all: Material[] = (await server.ask('GET', `/api/lessons/${LESSON}/materials`)).json;
    material = all.find((one) => one.id === id);
  }
  expect(material).toMatchObject({ state: 'ready', content, aspects: [16 / 9, 16 / 9] });
});

it('shows nobody but the teacher anything', async () => {
  const { content } = await bring('secret.pdf', await pdf(1));
  const strict = await startTestServer({ demo: false, readerScript: reader });
  try {
    for (const path of [`/api/pages/${content}/0?width=480`, `/api/lessons/${LESSON}/materials`]) {
      expect((await fetch(strict.url + path)).status).toBe(401);
    }
  } finally {
    await strict.remove();
  }
  expect(existsSync(reader)).toBe(true);
  expect((await readFile(reader, 'utf8')).length).toBeGreaterThan(100);
});
