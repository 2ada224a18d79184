import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { openDatabase } from './database';

/** `docs/database.md` is made from the schema. `npm run docs:database` writes it; without that, this test says when it is out of date. */
const FILE = join(__dirname, '..', '..', '..', 'docs', 'database.md');

/** What each table is for, by area. */
const AREAS: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  'Account and settings': {
    settings:
      'Name and value, JSON: passphrase hash, shortcuts, saved layouts, styles, mail server.',
    sessions: 'Signed-in browsers of the teacher.',
    destinations: 'Places that films are made for, with their limits.',
  },
  'Lessons and recordings': {
    lessons: 'A lesson, and the summary that the list shows.',
    edits: 'Entries of a lesson, in order. The lesson’s decisions are computed from them.',
    takes: 'A recording or an imported film.',
    tracks: 'A track of a take; its media lies in the data folder under its id.',
    lesson_imports: 'Lesson archives that are being imported.',
    transcripts: 'Captions and chapters for search (FTS5, with its own shadow tables).',
    transcript_search_state: 'What of each lesson is indexed.',
    materials: 'Files of a lesson that can be shown, by content.',
    class_materials: 'Materials that a class keeps for its next lessons.',
  },
  Films: {
    films: 'A rendered film, or one that is being rendered.',
    film_streams: 'The pieces of a film, so that it plays before it is finished.',
  },
  'Classes, links and what students may see': {
    classes: 'A class and its units.',
    students: 'A student, in any number of classes.',
    class_students: 'Who is in which class.',
    share_links: 'A link to a film, with its availability, attachments and assignment.',
    link_versions: 'The films that a link has led to.',
    grants: 'Who may watch a link’s film.',
    student_pages: 'A student’s page and its PIN.',
    class_pages: 'A class’s page.',
    passes: 'Tokens of films on a page: what a page’s owner opens.',
  },
  'What students do': {
    views: 'When each student opened a link.',
    viewings: 'Which seconds were watched.',
    answers: 'Answers to interactions.',
    submissions: 'Work submitted under a link.',
    submission_files: 'Files of submissions.',
  },
  'E-mail': {
    mail_batches: 'What the teacher wrote to several students at once.',
    mail: 'One e-mail to one student.',
  },
  'Course sites (LTI 1.3)': {
    course_sites: 'A connected course site.',
    site_courses: 'A course of a site, and the class that it is.',
    site_people: 'A person of a site, and the student that they are.',
    site_nonces: 'Nonces that were used, until they expire.',
    site_scores: 'Scores to be sent, and what was sent last.',
  },
};

interface Column {
  readonly name: string;
  readonly type: string;
  readonly notnull: number;
  readonly pk: number;
}

it('docs/database.md says what the schema says', async () => {
  const home = await mkdtemp(join(tmpdir(), 'under-chalk-database-page-'));
  const db = await openDatabase(join(home, 'test.sqlite'), 'OFF');
  try {
    const names: string[] = await db('sqlite_master').where({ type: 'table' }).pluck('name');
    const ours = names.filter((name) => !/^(sqlite_|knex_|transcripts_)/.test(name));
    expect(ours.sort()).toEqual(Object.values(AREAS).flatMap(Object.keys).sort());

    const describe = async (name: string, purpose: string): Promise<string> => {
      const columns: Column[] = await db.raw(`pragma table_info(${name})`);
      const keys: { from: string; table: string }[] = await db.raw(
        `pragma foreign_key_list(${name})`,
      );
      const told = columns
        .filter((column) => column.name !== 'teacher_id')
        .map(({ name: column, type, notnull, pk }) => {
          const key = keys.find(({ from }) => from === column);
          const marks = [
            type.toLowerCase() || 'text',
            ...(pk > 0 ? ['key'] : []),
            ...(notnull || pk > 0 ? [] : ['null']),
            ...(key ? [`→ ${key.table}`] : []),
          ];
          return `\`${column}\` ${marks.join(', ')}`;
        });
      return `### ${name}\n\n${purpose}\n\n${told.join(' · ')}\n`;
    };
    const parts: string[] = [];
    for (const [area, tables] of Object.entries(AREAS)) {
      parts.push(`## ${area}\n`);
      for (const [name, purpose] of Object.entries(tables))
        parts.push(await describe(name, purpose));
    }
    const page = `# Database

SQLite through Knex, in the data folder. The schema is in \`server/src/store/migrations.ts\`; this page is made from it by
\`npm run docs:database\`. Every table but two search tables has \`teacher_id\`. Columns ending in \`_at\` are ISO 8601 in UTC unless the
schema says otherwise; \`_us\` are microseconds. Media, materials and rendered pieces are files beside the database; their names are ids
and digests.

${parts.join('\n')}`;
    if (process.env['UPDATE_DOCS']) await writeFile(FILE, page);
    expect(await readFile(FILE, 'utf8')).toBe(page);
  } finally {
    await db.destroy();
    await rm(home, { recursive: true, force: true });
  }
});
