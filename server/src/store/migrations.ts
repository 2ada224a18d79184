import { FIRST_DESTINATIONS } from '@under-chalk/core/destination/destination';
import type { Knex } from 'knex';

/** Whose everything is: there is one teacher so far. */
export const FIRST_TEACHER = 'first-teacher';

type Columns = (table: Knex.CreateTableBuilder) => void;

/** Creates a table whose rows belong to a teacher. */
const create = (knex: Knex, name: string, columns: Columns) =>
  knex.schema.createTable(name, (table) => {
    columns(table);
    table.text('teacher_id').notNullable().defaultTo(FIRST_TEACHER);
  });

/** The first schema. Times that end in `_at` are ISO 8601 in UTC, unless they say otherwise. */
const baseline = async (knex: Knex): Promise<void> => {
  const table = (name: string, columns: Columns) => create(knex, name, columns);

  await table('settings', (t) => {
    t.text('name').primary();
    t.text('value').notNullable();
  });
  await table('sessions', (t) => {
    t.text('token_hash').primary();
    t.integer('expires_at').notNullable();
  });
  await table('destinations', (t) => {
    t.text('id').primary();
    t.text('place').notNullable();
    t.integer('rank').notNullable();
  });
  await knex('destinations').insert(
    FIRST_DESTINATIONS.map((place, rank) => ({ id: place.id, place: JSON.stringify(place), rank })),
  );

  // Lessons and what was recorded for them.
  await table('lessons', (t) => {
    t.text('id').primary();
    t.text('created_at').notNullable();
    t.text('updated_at').notNullable();
    t.text('removed_at');
    t.text('archived_at');
    /** Row of the lessons list, JSON, and the state that it was computed from. */
    t.text('summary');
    t.text('summary_of');
  });
  await table('edits', (t) => {
    t.text('lesson_id').notNullable().references('lessons.id');
    t.integer('revision').notNullable();
    t.text('entry_id').notNullable();
    /** `core/edit/entry`, JSON. */
    t.text('entry').notNullable();
    t.text('at').notNullable();
    t.primary(['lesson_id', 'revision']);
    t.unique(['lesson_id', 'entry_id']);
  });
  await table('takes', (t) => {
    t.text('id').primary();
    t.text('lesson_id').notNullable().references('lessons.id').index();
    t.text('source').notNullable();
    t.boolean('practice').notNullable();
    t.text('state').notNullable();
    t.text('problem');
    t.boolean('cut_short').notNullable().defaultTo(false);
    t.text('recorded_at').notNullable();
    t.integer('duration_us').notNullable().defaultTo(0);
    /** Last sign of life of its recorder, ms since 1970. */
    t.integer('heartbeat').notNullable();
    t.text('removed_at');
    /** Processed elsewhere: each of its tracks came as a file of its own. */
    t.boolean('from_archive').notNullable().defaultTo(false);
  });
  await table('tracks', (t) => {
    t.text('id').primary();
    t.text('take_id').notNullable().references('takes.id').index();
    t.text('kind').notNullable();
    t.integer('duration_us').notNullable().defaultTo(0);
    t.integer('width_px').notNullable().defaultTo(0);
    t.integer('height_px').notNullable().defaultTo(0);
    /** Bytes of the processed media. */
    t.integer('bytes').notNullable().defaultTo(0);
    t.boolean('ingested').notNullable().defaultTo(false);
    t.text('digest').notNullable().defaultTo('');
  });
  await table('lesson_imports', (t) => {
    t.text('id').primary();
    t.text('state').notNullable();
    t.text('lesson_id');
    t.text('problem');
    t.text('begun_at').notNullable();
  });
  await knex.raw(
    `create virtual table transcripts using fts5(
      lesson_id unindexed, kind unindexed, language unindexed, film_us unindexed, text,
      tokenize = "unicode61 remove_diacritics 2", prefix = "2 3 4"
    )`,
  );
  await knex.schema.createTable('transcript_search_state', (t) => {
    t.text('lesson_id').primary();
    /** What the indexed words depend on, as it was when they were read. */
    t.text('state').notNullable();
    t.text('title').notNullable();
  });

  // Materials.
  const material: Columns = (t) => {
    t.text('id').primary();
    t.text('name').notNullable();
    t.text('aspects').notNullable().defaultTo('[]');
    t.boolean('dark').notNullable().defaultTo(false);
    t.text('words').notNullable().defaultTo('[]');
    t.integer('bytes').notNullable().defaultTo(0);
    t.text('removed_at');
  };
  await table('materials', (t) => {
    material(t);
    t.text('lesson_id').notNullable().references('lessons.id').index();
    t.text('state').notNullable();
    t.text('problem');
    /** SHA-256 of the file, hexadecimal; null: its bytes are still coming. */
    t.text('content').index();
    t.text('brought_at').notNullable();
  });
  await table('class_materials', (t) => {
    material(t);
    t.text('class_name').notNullable();
    t.text('content').notNullable().index();
    t.text('kept_at').notNullable();
    t.unique(['class_name', 'content']);
  });

  // Films.
  await table('films', (t) => {
    t.text('id').primary();
    t.text('lesson_id').notNullable().references('lessons.id').index();
    t.integer('revision').notNullable();
    t.text('size').notNullable();
    t.text('state').notNullable().index();
    t.text('problem');
    t.text('problem_detail');
    t.integer('bytes').notNullable().defaultTo(0);
    t.integer('film_us').notNullable();
    t.text('file_name').notNullable();
    t.text('created_at').notNullable();
    t.text('words');
    t.text('manifest_id').notNullable().defaultTo('').index();
    t.text('removed_at');
  });
  await table('film_streams', (t) => {
    t.text('film_id').primary().references('films.id');
    /** Its pieces, so that it can be played while it is rendered: JSON. */
    t.text('stream').notNullable();
  });

  // Classes and students.
  await table('classes', (t) => {
    t.text('id').primary();
    t.text('name').notNullable();
    /** In order, JSON. */
    t.text('units').notNullable().defaultTo('[]');
    /** Language and time zone of its e-mails (`core/class/class`), JSON. */
    t.text('mail');
    t.text('removed_at');
  });
  await table('students', (t) => {
    t.text('id').primary();
    t.text('name').notNullable();
    t.text('address');
    t.text('created_at').notNullable();
  });
  await table('class_students', (t) => {
    t.text('class_id').notNullable().references('classes.id');
    t.text('student_id').notNullable().references('students.id').index();
    /** Out of the class since then; can be brought back. */
    t.text('left_at');
    t.primary(['class_id', 'student_id']);
  });

  // Links. Tokens are stored as hashes, and sealed (`link-seal`).
  const token: Columns = (t) => {
    t.text('token_hash').notNullable().unique();
    t.text('token_sealed').notNullable();
    t.text('created_at').notNullable();
    t.text('revoked_at');
  };
  await table('share_links', (t) => {
    t.text('id').primary();
    t.text('lesson_id').notNullable().references('lessons.id').index();
    t.text('film_id').notNullable().references('films.id').index();
    token(t);
    t.text('available_from');
    t.text('available_until');
    /** Whether students may download the film. */
    t.boolean('downloads').notNullable().defaultTo(false);
    /** Ids of the lesson's materials that students may download, JSON. */
    t.text('attachments').notNullable().defaultTo('[]');
    /** `core/submission/assignment`, JSON; null: there is none. */
    t.text('assignment');
  });
  await table('link_versions', (t) => {
    t.text('id').primary();
    t.text('share_link_id').notNullable().references('share_links.id').index();
    t.text('film_id').notNullable().references('films.id').index();
    t.text('published_at').notNullable();
    /** When its teacher stopped it for those who had it open; null: it ends by itself. */
    t.text('ended_at');
  });
  await table('grants', (t) => {
    t.text('id').primary();
    t.text('share_link_id').notNullable().references('share_links.id').index();
    /** `anyone`, `class` or `student`; and which. */
    t.text('grantee').notNullable();
    t.text('grantee_id');
    /** Null: as the link says. */
    t.text('available_from');
    t.text('available_until');
    t.index(['grantee', 'grantee_id']);
  });
  await table('student_pages', (t) => {
    t.text('student_id').primary().references('students.id');
    token(t);
    /** Six digits that are asked for besides the link, sealed; null: none are. */
    t.text('pin_sealed');
  });
  await table('class_pages', (t) => {
    t.text('class_id').primary().references('classes.id');
    token(t);
  });
  await table('passes', (t) => {
    t.text('token_hash').primary();
    /** Whose page it is on: a student's, or a class's. */
    t.text('student_id').references('students.id').index();
    t.text('class_id').references('classes.id').index();
    t.text('share_link_id').notNullable().references('share_links.id').index();
  });

  // What students did.
  const ofStudent: Columns = (t) => {
    t.text('share_link_id').notNullable().references('share_links.id');
    /** A student; or a visit or device of somebody without a name. */
    t.text('viewer').notNullable();
    t.text('student_id').references('students.id').index();
  };
  await table('views', (t) => {
    t.text('share_link_id').notNullable().references('share_links.id');
    t.text('student_id').notNullable().references('students.id').index();
    t.text('first_at').notNullable();
    t.text('last_at').notNullable();
    t.integer('times').notNullable();
    t.primary(['share_link_id', 'student_id']);
  });
  await table('viewings', (t) => {
    ofStudent(t);
    /** The film: its seconds are no other's. */
    t.text('version').notNullable();
    /** How often each second was watched (`core/watched/seconds`). */
    t.text('seconds').notNullable();
    t.text('visits').notNullable();
    t.text('first_at').notNullable();
    t.text('last_at').notNullable().index();
    t.primary(['share_link_id', 'viewer', 'version']);
  });
  await table('answers', (t) => {
    ofStudent(t);
    t.text('interaction_id').notNullable();
    /** What was asked, as it was then. */
    t.text('text').notNullable();
    t.text('asked').notNullable();
    t.text('answer').notNullable();
    t.integer('right');
    t.text('at').notNullable().index();
    t.primary(['share_link_id', 'interaction_id', 'viewer']);
  });
  await table('submissions', (t) => {
    ofStudent(t);
    /** Who they say they are, where the link is for anyone. */
    t.text('claimed_name').notNullable();
    t.text('text').notNullable();
    t.text('at').notNullable();
    t.primary(['share_link_id', 'viewer']);
  });
  await table('submission_files', (t) => {
    ofStudent(t);
    t.text('id').primary();
    t.text('name').notNullable();
    t.text('by').notNullable();
    /** What it turned out to be; null: it is still coming. */
    t.text('kind');
    t.integer('bytes').notNullable();
    t.integer('length_us');
    /** 1: it is part of the submission. */
    t.integer('submitted').notNullable();
    t.text('at').notNullable();
    t.index(['share_link_id', 'viewer']);
  });

  // E-mail.
  await table('mail_batches', (t) => {
    t.text('id').primary();
    t.text('share_link_id').notNullable().references('share_links.id').index();
    /** The teacher's own words. */
    t.text('note').notNullable();
    /** Where browsers reach this server, as it was when they were written. */
    t.text('origin').notNullable();
    t.text('at').notNullable();
    /** Time zone of the times in its e-mails (IANA). */
    t.text('time_zone');
  });
  await table('mail', (t) => {
    t.text('id').primary();
    t.text('share_link_id').notNullable().references('share_links.id').index();
    t.text('student_id').notNullable().references('students.id').index();
    t.text('batch_id').notNullable().references('mail_batches.id').index();
    t.text('state').notNullable().index();
    /** When it was written, sent, or tried last. */
    t.text('at').notNullable();
    t.integer('tries').notNullable();
    t.text('problem');
  });

  // Course sites (LTI 1.3).
  await table('course_sites', (t) => {
    t.text('id').primary();
    t.text('name').notNullable();
    t.text('issuer').notNullable();
    t.text('client_id').notNullable();
    t.text('auth_address').notNullable();
    t.text('token_address').notNullable();
    t.text('keys_address').notNullable();
    t.text('created_at').notNullable();
    t.unique(['issuer', 'client_id']);
  });
  await table('site_courses', (t) => {
    t.text('site_id').notNullable().references('course_sites.id');
    t.text('course_id').notNullable();
    t.text('title').notNullable();
    t.text('class_id');
    t.text('roster_address');
    t.primary(['site_id', 'course_id']);
  });
  await table('site_people', (t) => {
    t.text('site_id').notNullable().references('course_sites.id');
    /** The site's id of them. */
    t.text('sub').notNullable();
    t.text('student_id').notNullable().references('students.id').index();
    /** An existing student who may be the same person; null: none, or the teacher has answered. */
    t.text('maybe_student_id').references('students.id').index();
    /** Why: `address` or `name`. */
    t.text('maybe_by');
    t.primary(['site_id', 'sub']);
  });
  await table('site_nonces', (t) => {
    t.text('hash').primary();
    /** ms since 1970 */
    t.integer('until').notNullable().index();
  });
  await table('site_scores', (t) => {
    t.text('site_id').notNullable().references('course_sites.id');
    /** Where scores of a link are sent (an address of the site's). */
    t.text('line_item').notNullable();
    t.text('sub').notNullable();
    t.text('share_link_id').notNullable().references('share_links.id');
    t.text('student_id').notNullable().references('students.id').index();
    t.text('gives').notNullable();
    /** When they last did something that counts. */
    t.text('changed_at');
    /** When it is to be sent, ms since 1970; null: there is nothing to send. */
    t.integer('due_at').index();
    t.integer('tries').notNullable().defaultTo(0);
    /** Why it could not be sent the last time; null: it could. */
    t.text('problem');
    /** What was sent last, JSON; null: nothing was. */
    t.text('given');
    t.primary(['site_id', 'line_item', 'sub']);
    t.index(['share_link_id', 'student_id']);
  });
};

/** Migrations in code, so that bundling the server takes them along. Never change one that has been released. */
const MIGRATIONS: Record<string, (knex: Knex) => Promise<unknown>> = {
  '2026-12-baseline': baseline,
};

export const migrationNames = (): readonly string[] => Object.keys(MIGRATIONS).sort();

export const migrations: Knex.MigrationSource<string> = {
  getMigrations: () => Promise.resolve([...migrationNames()]),
  getMigrationName: (name) => name,
  getMigration: (name) =>
    Promise.resolve({
      up: (knex) => MIGRATIONS[name]!(knex),
      down: () =>
        Promise.reject(new Error('there is no way back; restore a copy of the data folder')),
    }),
};
