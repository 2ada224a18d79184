/** Fills an empty demo through the API, the way a teacher's browser would. */
import { pathTo } from '@under-chalk/core/contract/api';
import { ANYONE } from '@under-chalk/core/share-link/grant';
import type { ClassView } from '@under-chalk/core/contract/classes';
import type { PageContent } from '@under-chalk/core/contract/student-pages';
import { SUBMISSION_UPLOADS_PATH } from '@under-chalk/core/contract/watch-submissions';
import type { ShareLink } from '@under-chalk/core/contract/share-links';
import type { Watch } from '@under-chalk/core/contract/watch';
import type { Played } from '@under-chalk/core/watched/seconds';
import type { LessonView } from '@under-chalk/core/contract/lessons';
import { UPLOADS_PATH } from '@under-chalk/core/contract/takes';
import type { Edit } from '@under-chalk/core/edit/edit';
import { inkLine, type InkRecord, type InkSample } from '@under-chalk/core/ink/record';
import { recordsOfHand } from '@under-chalk/core/ink/script/script-records';
import { handOf } from '@under-chalk/core/ink/script/scripted-hand';
import { twelfthsScript } from '@under-chalk/core/ink/script/twelfths';
import type { WordsJob } from '@under-chalk/core/contract/words';
import { filmOf } from '@under-chalk/core/film/film';
import { cuesIn, type Cue } from '@under-chalk/core/words/cue';
import { madeRight } from '@under-chalk/core/words/make-right';
import { piecesOf } from '@under-chalk/core/words/pieces';
import type { Material } from '@under-chalk/core/material/material';
import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { ACTIVITY, CLASS, DEMO_CLASS, HANDED_IN, WORLD, type DemoLesson } from './world';

const [origin, media] = process.argv.slice(2);
if (!origin || !media) throw new Error('seed <address of the server> <folder of the media>');

const ask = async (method: string, path: string, body?: unknown): Promise<unknown> => {
  const response = await fetch(origin + path, {
    method,
    ...(body === undefined
      ? {}
      : { body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } }),
  });
  if (!response.ok)
    throw new Error(`${method} ${path}: ${response.status} ${await response.text()}`);
  return response.json();
};

const upload = async (trackId: string, bytes: Buffer, path: string = UPLOADS_PATH) => {
  const tus = { 'Tus-Resumable': '1.0.0' };
  const metadata = `trackId ${Buffer.from(trackId).toString('base64')}`;
  const created = await fetch(origin + path, {
    method: 'POST',
    headers: { ...tus, 'Upload-Length': String(bytes.length), 'Upload-Metadata': metadata },
  });
  if (!created.ok) throw new Error(`upload of ${trackId}: ${created.status}`);
  const sent = await fetch(`${origin}${path}/${trackId}`, {
    method: 'PATCH',
    headers: { ...tus, 'Upload-Offset': '0', 'Content-Type': 'application/offset+octet-stream' },
    body: new Uint8Array(bytes),
  });
  if (!sent.ok) throw new Error(`upload of ${trackId}: ${sent.status}`);
};

/** Brings a material into a lesson. @returns it, read */
const bringIn = async (lessonId: string, id: string, name: string, bytes: Buffer) => {
  await ask('POST', pathTo('newMaterial', { lessonId }), { id, name });
  await upload(id, bytes);
  for (let tries = 0; tries < 100; tries++) {
    const material = (await ask(
      'POST',
      pathTo('readMaterial', { materialId: id }),
      {},
    )) as Material;
    if (material.state === 'ready') return material;
    if (material.state === 'unusable') throw new Error(`${name}: ${material.problem}`);
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  throw new Error(`${name} does not get ready`);
};

/** A line under what is hard, drawn while it is said: from its first sample to its last in a second. */
const UNDERLINE = { fromX: 0.185, toX: 0.585, y: 0.265, us: 1_000_000, samples: 40 };

/** Slides, turned while sentences are said that begin at some times, and written on once. */
const turnedTo = (startsUs: readonly number[], { content, aspects }: Material): Buffer => {
  const turn = (at: number, page: number): InkRecord => ({
    ...{ at, do: 'page', page: `week-four-page-${page + 1}` },
    paper: { ruling: 'plain', shade: 'light' },
    of: { content: content!, page, aspect: aspects[page]! },
  });
  const [pages, hard, away] = [3, 4, 6].map((sentence) => startsUs[sentence]! - 200_000);
  const drawnUs = hard! + 2_000_000;
  const { fromX, toX, y, us, samples } = UNDERLINE;
  const stroke = 'week-four-underline';
  const drawn = Array.from({ length: samples }, (_, n): InkSample => {
    const part = n / (samples - 1);
    const wave = Math.sin(part * 9) * 0.0012;
    return [
      n === 0 ? 0 : Math.round(us / samples),
      Number((fromX + (toX - fromX) * part).toFixed(5)),
      Number((y + wave).toFixed(5)),
      0.5,
    ];
  });
  const records: InkRecord[] = [
    turn(0, 0),
    turn(pages!, 1),
    turn(hard!, 2),
    {
      ...{ at: drawnUs, do: 'begin', stroke },
      pen: { tool: 'pen', colour: 'red', width: 0.0048, stays: 'wiped' },
    },
    { at: drawnUs, do: 'draw', stroke, samples: drawn },
    { at: drawnUs + us, do: 'end', stroke },
    turn(away!, 3),
  ];
  return Buffer.from(records.map(inkLine).join(''));
};

/** What a scripted hand writes on the board while sentences are said that begin at some times. */
const writtenTo = (startsUs: readonly number[]): Buffer =>
  Buffer.from(
    recordsOfHand(
      handOf(twelfthsScript(startsUs)),
      'twelfths',
      { ruling: 'squared', shade: 'dark' },
      0.0048,
    )
      .map(inkLine)
      .join(''),
  );

const lessonNow = (id: string) =>
  ask('GET', pathTo('lesson', { lessonId: id })) as Promise<LessonView>;

const untilReady = async (lesson: DemoLesson) => {
  for (let tries = 0; tries < 300; tries++) {
    const { lesson: now } = await lessonNow(lesson.id);
    if (now.takes.every((take) => take.state === 'ready')) return;
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  throw new Error(`the footage of ${lesson.id} does not get ready`);
};

const KINDS = {
  'tide-table': ['surface', 'camera', 'voice'],
  slides: ['ink', 'camera', 'voice'],
  board: ['ink', 'voice'],
} as const;

interface Facts {
  readonly startsUs: readonly number[];
  readonly endUs: number;
}

/** Captions for what is said, a sentence after the other, as long as each is said. */
const captionsOf = (
  lesson: DemoLesson,
  { startsUs, endUs }: Facts,
  texts: readonly string[],
): Cue[] =>
  texts.flatMap((text, at) => {
    const [fromUs, nextUs] = [startsUs[at]!, startsUs[at + 1] ?? endUs];
    const toUs = nextUs - Math.round(lesson.said[at]!.pause * 1e6);
    const pieces = piecesOf(text, 'en');
    const all = pieces.join('').length;
    let signs = 0;
    return pieces.map((piece): Cue => {
      const time = (count: number) => Math.round(fromUs + ((toUs - fromUs) * count) / all);
      const startUs = time(signs);
      signs += piece.length;
      return {
        ...{ id: randomUUID(), takeId: lesson.takeId!, startUs, endUs: time(signs), text: piece },
        ...{ words: null, timed: 'by-hand', draft: false },
      };
    });
  });

/** Puts captions that were pasted in time with the voice, where the server can listen; else they stay as they are. */
const listened = async (lesson: DemoLesson, cues: readonly Cue[]): Promise<readonly Cue[]> => {
  let job = (await ask('POST', pathTo('timeWords', { lessonId: lesson.id }), {
    language: 'en',
  })) as WordsJob;
  while (job.state === 'waiting' || job.state === 'working') {
    await new Promise((resolve) => setTimeout(resolve, 300));
    job = (await ask('GET', pathTo('wordsJob', { jobId: job.id }))) as WordsJob;
  }
  return job.timing?.cues ?? cues;
};

const writeCaptions = async (
  lesson: DemoLesson,
  facts: Facts,
  edit: (edits: readonly Edit[]) => Promise<void>,
) => {
  const { how, german } = lesson.captions!;
  const write = async (language: string, cues: readonly Cue[]) => {
    if (cues.length > 0) await edit([{ do: 'write-cues', language, cues: [...cues], gone: [] }]);
  };
  const right = async (language: string) => {
    const { lesson: now } = await lessonNow(lesson.id);
    const film = filmOf(now);
    const cues = cuesIn(now.decisions.cues, language);
    const { cues: changed, gone } = madeRight(film, cues, randomUUID);
    if (changed.length + gone.length > 0) {
      await edit([{ do: 'write-cues', language, cues: [...changed], gone: [...gone] }]);
    }
  };
  const cues = captionsOf(
    lesson,
    facts,
    lesson.said.map(({ words }) => words),
  );
  await write('en', cues);
  if (how === 'pasted') await write('en', await listened(lesson, cues));
  await right('en');
  if (!german) return;
  await write('de', captionsOf(lesson, facts, german));
  await right('de');
};

/** Some who had nothing but the link have watched it: all of it, a part, or a place twice. */
const seedWatched = async (token: string) => {
  const { stream, filmUs } = (await ask('GET', pathTo('watch', { token }))) as Watch;
  if (stream === null) return;
  const end = Math.ceil(filmUs / 1e6);
  const visits: Played[][] = [
    [[0, end]],
    [[0, end]],
    [
      [0, 19],
      [12, end],
    ],
    [
      [0, 17],
      [11, 18],
    ],
    [[0, 9]],
    [[12, 18]],
  ];
  for (const [index, played] of visits.entries()) {
    const visit = `demo-visit-without-name-${index}`;
    await ask('POST', pathTo('notePlayed', { token }), { version: stream, visit, part: 1, played });
  }
};

/** What students of the demo have handed in of what is to be done after the film. */
const seedSubmissions = async (shareLink: ShareLink) => {
  await ask('POST', pathTo('setAssignment', { shareLinkId: shareLink.id }), {
    assignment: ACTIVITY,
  });
  const { students } = (await ask('GET', pathTo('class', { classId: DEMO_CLASS.id }))) as ClassView;
  for (const { student: name, text, files } of HANDED_IN) {
    const student = students.find((one) => one.name === name)!;
    const page = (await ask('POST', pathTo('studentPage', { studentId: student.id }))) as {
      key: string;
    };
    const { classes } = (await ask('GET', pathTo('pageContent', { key: page.key }))) as PageContent;
    const token = classes[0]!.now!.films[0]!.token!;
    const visitor = `demo-${student.id}`;
    const ids: string[] = [];
    for (const [index, file] of files.entries()) {
      const bytes = await file.bytes();
      const id = `demo-${student.id}-file-${index + 1}`;
      await ask('POST', pathTo('announceSubmissionFile', { token }), {
        ...{ visitor, id, name: file.name, by: 'file', bytes: bytes.length },
      });
      await upload(id, bytes, SUBMISSION_UPLOADS_PATH);
      await ask('POST', pathTo('submissionFileCame', { token, fileId: id }), { visitor });
      ids.push(id);
    }
    await ask('POST', pathTo('submit', { token }), { visitor, name: '', text, files: ids });
  }
};

const seedLesson = async (lesson: DemoLesson) => {
  await ask('POST', '/api/lessons', { id: lesson.id, title: lesson.plan.title });
  const edit = async (edits: readonly Edit[]) => {
    const { lesson: now } = await lessonNow(lesson.id);
    const entries = edits.map((one) => ({ id: randomUUID(), by: 'teacher', edit: one }));
    await ask('POST', pathTo('edit', { lessonId: lesson.id }), {
      baseRevision: now.revision,
      entries,
    });
  };
  await edit([
    { do: 'plan', set: lesson.plan },
    ...lesson.points.map(({ text, show = '', words = '' }, rank) => ({
      do: 'set-topic' as const,
      topic: { id: `${lesson.id}-point-${rank + 1}`, text, show, words, rank },
    })),
  ]);
  const materials: Material[] = [];
  for (const [index, { name, bytes }] of lesson.materials.entries()) {
    const id = `${lesson.id.replace('lesson', 'material')}-${index + 1}`;
    materials.push(await bringIn(lesson.id, id, name, await bytes()));
  }
  if (!lesson.takeId || !lesson.footage) return;
  const facts = JSON.parse(readFileSync(join(media, `${lesson.footage}.json`), 'utf8')) as Facts;
  const kinds = KINDS[lesson.surface];
  await ask('POST', pathTo('newTake', { lessonId: lesson.id }), {
    id: lesson.takeId,
    source: lesson.surface === 'tide-table' ? 'screen' : 'board',
    practice: true,
    tracks: kinds.map((kind) => ({ id: `${lesson.takeId}-${kind}`, kind })),
  });
  for (const kind of kinds) {
    await upload(
      `${lesson.takeId}-${kind}`,
      kind === 'ink'
        ? lesson.surface === 'slides'
          ? turnedTo(facts.startsUs, materials[0]!)
          : writtenTo(facts.startsUs)
        : readFileSync(join(media, `${lesson.footage}-${kind}.mp4`)),
    );
  }
  await ask('POST', pathTo('stopTake', { takeId: lesson.takeId }), {});
  await untilReady(lesson);
  const edits = lesson.tidied(facts.startsUs, facts.endUs);
  if (edits.length > 0) await edit(edits);
  if (lesson.captions) await writeCaptions(lesson, facts, edit);
  if (lesson.handedOut) {
    const shareLink = (await ask('POST', pathTo('createShareLink', { lessonId: lesson.id }), {
      size: '720p',
      grants: [
        ANYONE,
        {
          grantee: { is: 'class', classId: DEMO_CLASS.id },
          availableFrom: null,
          availableUntil: null,
        },
      ],
    })) as ShareLink;
    await seedWatched(shareLink.token!);
    await seedSubmissions(shareLink);
    console.log(`“${lesson.plan.title}” is handed out at ${origin}/w/${shareLink.token}`);
  }
};

/** The class, with its weeks and its students. */
const seedClass = async () => {
  const { id, units, students } = DEMO_CLASS;
  await ask('POST', pathTo('setClass'), {
    ...{ id, name: CLASS },
    units: units.map((name, at) => ({ id: `unit-week-${at + 1}`, name })),
  });
  await ask('POST', pathTo('enrol', { classId: id }), { students });
};

const present = (await ask('GET', '/api/lessons')) as unknown[];
if (present.length === 0) {
  await seedClass();
  for (const lesson of [...WORLD].reverse()) await seedLesson(lesson);
  console.log('The demo lessons of Lantern Quay Evening Classes are in.');
}
