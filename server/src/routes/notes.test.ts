import { inkLine } from '@under-chalk/core/ink/record';
import { recordsOfHand } from '@under-chalk/core/ink/script/script-records';
import { handOf } from '@under-chalk/core/ink/script/scripted-hand';
import { twelfthsScript } from '@under-chalk/core/ink/script/twelfths';
import { inkOfInkml } from '@under-chalk/core/ink/inkml';
import { inkTrackOf } from '@under-chalk/core/ink/ink-track';
import { execFileSync } from 'node:child_process';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startTestServer, type TestServer } from '../testing/test-server';

jest.setTimeout(120_000);

let server: TestServer;
let folder: string;
const LESSON = 'lesson-notes';
const paper = { ruling: 'squared', shade: 'dark' } as const;
const RECORDS = recordsOfHand(handOf(twelfthsScript()), 'twelfths', paper, 0.0048);
const words = [
  {
    ...{ at: 0, do: 'begin', stroke: 'stroke-words', text: 'Spring tides: <4 m>' },
    pen: { tool: 'text', colour: 'green', width: 0.04, stays: 'wiped' },
  },
  { at: 0, do: 'draw', stroke: 'stroke-words', samples: [[0, 0.6, 0.4, 0.5]] },
  { at: 0, do: 'end', stroke: 'stroke-words' },
] as const;

beforeAll(async () => {
  server = await startTestServer();
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-notes-'));
  await server.ask('POST', '/api/lessons', { id: LESSON, title: 'Rule of twelfths' });
  await server.ask('POST', `/api/lessons/${LESSON}/takes`, {
    ...{ id: 'take-notes', source: 'board', practice: false },
    tracks: [{ id: 'take-notes-ink', kind: 'ink' }],
  });
  const [first, ...rest] = RECORDS;
  const lines = [first!, ...(words as unknown as typeof RECORDS), ...rest].map(inkLine).join('');
  await server.upload('take-notes-ink', Buffer.from(lines));
  await server.ask('POST', '/api/takes/take-notes/stop', {});
  await server.ingested('take-notes');
});
afterAll(async () => {
  await server.remove();
  await rm(folder, { recursive: true, force: true });
});

interface ReadPdf {
  readonly title: string;
  readonly pages: readonly {
    readonly text: string;
    readonly links: readonly string[];
    readonly paths: number;
    readonly pictures: number;
  }[];
}

/** Reads a PDF as a program that shows it would, in a process of its own. */
const readPdf = async (bytes: Uint8Array): Promise<ReadPdf> => {
  const path = join(folder, 'notes.pdf');
  await writeFile(path, bytes);
  const script = `
    import { readFileSync } from 'node:fs';
    const { getDocument, OPS } = await import('pdfjs-dist/legacy/build/pdf.mjs');
    const doc = await getDocument({ data: new Uint8Array(readFileSync(process.argv[1])), verbosity: 0 }).promise;
    const pages = [];
    for (let n = 1; n <= doc.numPages; n++) {
      const page = await doc.getPage(n);
      const { items } = await page.getTextContent();
      const { fnArray } = await page.getOperatorList();
      const links = (await page.getAnnotations()).map((a) => a.url ?? JSON.stringify(a));
      pages.push({
        text: items.map(({ str }) => str).join('|'),
        links,
        paths: fnArray.filter((op) => op === OPS.constructPath).length,
        pictures: fnArray.filter((op) => op === OPS.paintImageXObject).length,
      });
    }
    const { info } = await doc.getMetadata();
    console.log(JSON.stringify({ title: info.Title, pages }));
  `;
  const args = ['--input-type=module', '-e', script, path];
  // From where the package is installed.
  const told = execFileSync(process.execPath, args, { cwd: join(__dirname, '..', '..') });
  return JSON.parse(told.toString()) as ReadPdf;
};

const bytesOf = async (path: string) => {
  const answer = await fetch(server.url + path);
  expect(answer.status).toBe(200);
  return {
    bytes: new Uint8Array(await answer.arrayBuffer()),
    type: answer.headers.get('content-type'),
    saved: answer.headers.get('content-disposition'),
  };
};

it('gives the pages of the board as PDF: vectors, and words as text', async () => {
  const { bytes, type, saved } = await bytesOf(`/api/lessons/${LESSON}/notes.pdf`);
  expect([type, saved]).toEqual([
    'application/pdf',
    expect.stringContaining('Rule of twelfths.pdf'),
  ]);
  const { title, pages } = await readPdf(bytes);
  expect(title).toBe('Rule of twelfths');
  expect(pages).toHaveLength(2);
  expect(pages[0]!.text).toContain('Spring tides: <4 m>');
  expect(pages[0]!.text).toContain('page 1 of 2');
  expect(pages[0]!.text).toContain('0:00');
  // A stroke each, and the ruling; nothing of it is a picture.
  expect(pages[0]!.paths).toBeGreaterThan(40);
  expect(pages.map(({ pictures }) => pictures)).toEqual([0, 0]);
  expect(pages[0]!.links).toEqual([]);
});

it('gives each page as SVG, and says what is on them', async () => {
  const { json } = await server.ask('GET', `/api/lessons/${LESSON}/notes`);
  expect(json).toMatchObject([
    { says: 'Spring tides: <4 m>', shownUs: [0, expect.any(Number)] },
    { says: '', shownUs: [expect.any(Number)] },
  ]);
  const { bytes, saved } = await bytesOf(`/api/lessons/${LESSON}/notes/2/page.svg`);
  expect(new TextDecoder().decode(bytes)).toMatch(/^<svg xmlns/);
  // Never shown in place: it could be anything.
  expect(saved).toMatch(/^attachment/);
  expect((await server.ask('GET', `/api/lessons/${LESSON}/notes/3/page.svg`)).status).toBe(404);
  expect((await server.ask('GET', `/api/lessons/${LESSON}/notes/0/page.svg`)).status).toBe(404);
});

it('gives the ink with its times, as the lesson has it', async () => {
  await server.edit(LESSON, {
    ...{ do: 'change-ink', takeId: 'take-notes', strokes: ['stroke-words'] },
    change: { colour: 'red' },
  });
  const { bytes } = await bytesOf(`/api/lessons/${LESSON}/takes/take-notes/ink.inkml`);
  let count = 0;
  const track = inkTrackOf(
    inkOfInkml(new TextDecoder().decode(bytes), () => `name-${100000 + count++}`),
  );
  const told = RECORDS.filter((record) => record.do === 'begin').length;
  expect(track.strokes).toHaveLength(told + 1);
  expect(track.strokes.find(({ text }) => text !== '')).toMatchObject({
    text: 'Spring tides: <4 m>',
    pen: { colour: 'red' },
  });
  expect((await server.ask('GET', `/api/lessons/${LESSON}/takes/take-none/ink.inkml`)).status).toBe(
    404,
  );
});

it('lets a student keep the pages of the film that was handed out, with links to its times, and no others', async () => {
  const { json: link } = await server.ask('POST', `/api/lessons/${LESSON}/share-links`, {
    size: '720p',
  });
  const watch = await server.ask('GET', `/api/watch/${link.token}`);
  expect(watch.json.notePages).toBe(2);
  // Cut afterwards: the link's film still has it, and so have its pages.
  const { bytes } = await bytesOf(`/api/watch/${link.token}/notes.pdf`);
  // Typeset once: its date and id would be others.
  expect((await bytesOf(`/api/watch/${link.token}/notes.pdf`)).bytes).toEqual(bytes);
  const { pages } = await readPdf(bytes);
  expect(pages).toHaveLength(2);
  expect([...pages[0]!.links].sort()[0]).toBe(`${server.url}/w/${link.token}?t=0`);
  expect(pages[0]!.links.length + pages[1]!.links.length).toBe(3);
  await server.edit(LESSON, {
    ...{ do: 'cut', takeId: 'take-notes' },
    ...{ startUs: 30_000_000, endUs: 64_000_000 },
  });
  expect((await server.ask('GET', `/api/lessons/${LESSON}/notes`)).json).toHaveLength(1);
  await server.ask('DELETE', `/api/share-links/${link.id}`);
  expect((await server.ask('GET', `/api/watch/${link.token}/notes.pdf`)).status).toBe(404);
});
