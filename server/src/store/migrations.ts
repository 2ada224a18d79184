import { FIRST_DESTINATIONS } from '@under-chalk/core/destination/destination';
import type { Knex } from 'knex';
import type { LinkSeal } from './link-seal';
import { nameEntries } from './name-entries';
import { sealLinks } from './seal-links';

/** Whose everything is: there is one teacher so far. */
export const FIRST_TEACHER = 'first-teacher';

/** Tables that there were when rows began to say whose they are. */
const OWNED = [
  ...['settings', 'sessions', 'lessons', 'edits', 'takes', 'tracks', 'films', 'hand_outs'],
  'destinations',
];

/** Migrations in code, so that bundling the server takes them along. Never change one that has landed. */
const MIGRATIONS: Record<string, (knex: Knex, seal: LinkSeal) => Promise<unknown>> = {
  '001-first-whole': (knex) =>
    knex.schema
      .createTable('settings', (table) => {
        table.text('name').primary();
        table.text('value').notNullable();
      })
      .createTable('sessions', (table) => {
        table.text('token_hash').primary();
        table.integer('expires_at').notNullable();
      })
      .createTable('lessons', (table) => {
        table.text('id').primary();
        table.text('created_at').notNullable();
        table.text('updated_at').notNullable();
      })
      .createTable('edits', (table) => {
        table.text('lesson_id').notNullable().references('lessons.id');
        table.integer('revision').notNullable();
        table.text('entry').notNullable();
        table.text('at').notNullable();
        table.primary(['lesson_id', 'revision']);
      })
      .createTable('takes', (table) => {
        table.text('id').primary();
        table.text('lesson_id').notNullable().references('lessons.id').index();
        table.text('source').notNullable();
        table.boolean('practice').notNullable();
        table.text('state').notNullable();
        table.text('problem');
        table.boolean('cut_short').notNullable().defaultTo(false);
        table.text('recorded_at').notNullable();
        table.integer('duration_us').notNullable().defaultTo(0);
        table.integer('heard_at').notNullable();
      })
      .createTable('tracks', (table) => {
        table.text('id').primary();
        table.text('take_id').notNullable().references('takes.id').index();
        table.text('kind').notNullable();
        table.integer('duration_us').notNullable().defaultTo(0);
        table.integer('width_px').notNullable().defaultTo(0);
        table.integer('height_px').notNullable().defaultTo(0);
        /** Bytes of the settled media. */
        table.integer('bytes').notNullable().defaultTo(0);
        table.boolean('settled').notNullable().defaultTo(false);
      })
      .createTable('films', (table) => {
        table.text('id').primary();
        table.text('lesson_id').notNullable().references('lessons.id').index();
        table.integer('revision').notNullable();
        table.text('size').notNullable();
        table.text('state').notNullable();
        table.text('problem');
        table.text('problem_detail');
        table.integer('bytes').notNullable().defaultTo(0);
        table.integer('film_us').notNullable();
        table.text('file_name').notNullable();
        table.text('created_at').notNullable();
      })
      .createTable('hand_outs', (table) => {
        table.text('id').primary();
        table.text('lesson_id').notNullable().references('lessons.id').index();
        table.text('film_id').notNullable().references('films.id');
        table.text('token').notNullable().unique();
        table.text('created_at').notNullable();
        table.text('taken_back_at');
      }),
  '002-destinations': async (knex) => {
    await knex.schema.createTable('destinations', (table) => {
      table.text('id').primary();
      table.text('place').notNullable();
      table.integer('rank').notNullable();
    });
    await knex('destinations').insert(
      FIRST_DESTINATIONS.map((place, rank) => ({
        id: place.id,
        place: JSON.stringify(place),
        rank,
      })),
    );
  },
  '003-film-words': (knex) =>
    knex.schema.alterTable('films', (table) => {
      table.text('words');
    }),
  '004-removed-lessons': (knex) =>
    knex.schema.alterTable('lessons', (table) => {
      table.text('removed_at');
    }),
  '005-named-entries': nameEntries,
  '006-digests': (knex) =>
    knex.schema
      .alterTable('tracks', (table) => {
        table.text('digest').notNullable().defaultTo('');
      })
      .alterTable('films', (table) => {
        table.text('manifest_id').notNullable().defaultTo('');
      }),
  '007-sealed-links': sealLinks,
  '008-bin': (knex) =>
    knex.schema
      .alterTable('takes', (table) => {
        table.text('removed_at');
      })
      .alterTable('films', (table) => {
        table.text('removed_at');
      }),
  '010-materials': (knex) =>
    knex.schema.createTable('materials', (table) => {
      table.text('id').primary();
      table.text('lesson_id').notNullable().references('lessons.id').index();
      table.text('name').notNullable();
      table.text('state').notNullable();
      table.text('problem');
      /** SHA-256 of what is in it, hexadecimal. */
      table.text('content').index();
      table.text('aspects').notNullable().defaultTo('[]');
      table.boolean('dark').notNullable().defaultTo(false);
      table.text('words').notNullable().defaultTo('[]');
      table.integer('bytes').notNullable().defaultTo(0);
      table.text('brought_at').notNullable();
      table.text('removed_at');
      table.text('teacher_id').notNullable().defaultTo(FIRST_TEACHER);
    }),
  '011-class-materials': (knex) =>
    knex.schema.createTable('class_materials', (table) => {
      table.text('id').primary();
      table.text('class_name').notNullable();
      table.text('name').notNullable();
      table.text('content').notNullable().index();
      table.text('aspects').notNullable();
      table.boolean('dark').notNullable();
      table.text('words').notNullable();
      table.integer('bytes').notNullable();
      table.text('kept_at').notNullable();
      table.text('removed_at');
      table.text('teacher_id').notNullable();
      table.unique(['class_name', 'content']);
    }),
  '012-takes-of-bundles': (knex) =>
    knex.schema.alterTable('takes', (table) => {
      /** Settled elsewhere: each of its tracks came as a file of its own. */
      table.boolean('from_bundle').notNullable().defaultTo(false);
    }),
  '013-bundles': (knex) =>
    knex.schema.createTable('bundles', (table) => {
      table.text('id').primary();
      table.text('state').notNullable();
      table.text('lesson_id');
      table.text('problem');
      table.text('begun_at').notNullable();
      table.text('teacher_id').notNullable().defaultTo(FIRST_TEACHER);
    }),
  '014-said': async (knex) => {
    await knex.raw(
      `create virtual table said using fts5(
        lesson_id unindexed, kind unindexed, language unindexed, film_us unindexed, text,
        tokenize = "unicode61 remove_diacritics 2", prefix = "2 3 4"
      )`,
    );
    await knex.schema.createTable('said_of', (table) => {
      table.text('lesson_id').primary();
      /** What the words that are found depend on, as it was when they were taken. */
      table.text('state').notNullable();
      table.text('title').notNullable();
    });
  },
  '015-film-streams': (knex) =>
    knex.schema.createTable('film_streams', (table) => {
      table.text('film_id').primary().references('films.id');
      /** What its pieces are kept as, so that it can be played while it is made: JSON. */
      table.text('stream').notNullable();
      table.text('teacher_id').notNullable().defaultTo(FIRST_TEACHER);
    }),
  '016-kept-right': async (knex) => {
    await knex.schema.alterTable('hand_outs', (table) => {
      /** From when and until when it can be watched, ISO 8601 in UTC. */
      table.text('from_at');
      table.text('until_at');
    });
    await knex.schema.createTable('hand_out_films', (table) => {
      table.text('id').primary();
      table.text('hand_out_id').notNullable().references('hand_outs.id').index();
      table.text('film_id').notNullable().references('films.id').index();
      table.text('given_at').notNullable();
      table.text('teacher_id').notNullable().defaultTo(FIRST_TEACHER);
    });
    const rows: { id: string; film_id: string; created_at: string }[] = await knex('hand_outs')
      .orderBy('rowid')
      .select('id', 'film_id', 'created_at');
    for (const { id, film_id, created_at } of rows) {
      await knex('hand_out_films').insert({ id, hand_out_id: id, film_id, given_at: created_at });
    }
  },
  '017-students-save': (knex) =>
    knex.schema.alterTable('hand_outs', (table) => {
      /** Whether students may save the film, and not only watch it. */
      table.boolean('saves').notNullable().defaultTo(false);
    }),
  '018-materials-given': (knex) =>
    knex.schema.alterTable('hand_outs', (table) => {
      /** Ids of the lesson's materials that students may save, JSON. */
      table.text('materials').notNullable().defaultTo('[]');
    }),
  '019-classes': (knex) =>
    knex.schema
      .createTable('classes', (table) => {
        table.text('id').primary();
        table.text('name').notNullable();
        /** In order, JSON. */
        table.text('units').notNullable().defaultTo('[]');
        table.text('removed_at');
        table.text('teacher_id').notNullable().defaultTo(FIRST_TEACHER);
      })
      .createTable('students', (table) => {
        table.text('id').primary();
        table.text('name').notNullable();
        table.text('address');
        table.text('created_at').notNullable();
        table.text('teacher_id').notNullable().defaultTo(FIRST_TEACHER);
      })
      .createTable('class_students', (table) => {
        table.text('class_id').notNullable().references('classes.id');
        table.text('student_id').notNullable().references('students.id').index();
        /** Out of the class since then; can be brought back. */
        table.text('left_at');
        table.text('teacher_id').notNullable().defaultTo(FIRST_TEACHER);
        table.primary(['class_id', 'student_id']);
      }),
  '020-who-may-watch': async (knex) => {
    await knex.schema
      .createTable('grants', (table) => {
        table.text('id').primary();
        table.text('hand_out_id').notNullable().references('hand_outs.id').index();
        /** `anyone`, `class` or `student`; and which. */
        table.text('whom').notNullable();
        table.text('whom_id');
        /** ISO 8601 in UTC; null: as the hand-out says. */
        table.text('from_at');
        table.text('until_at');
        table.text('teacher_id').notNullable().defaultTo(FIRST_TEACHER);
        table.index(['whom', 'whom_id']);
      })
      .createTable('student_pages', (table) => {
        table.text('student_id').primary().references('students.id');
        /** Of the unguessable part of the page's address, as links are kept. */
        table.text('token_hash').notNullable().unique();
        table.text('token_sealed').notNullable();
        /** Six digits that are asked for besides, sealed; null: none are. */
        table.text('number_sealed');
        table.text('given_at').notNullable();
        table.text('taken_away_at');
        table.text('teacher_id').notNullable().defaultTo(FIRST_TEACHER);
      })
      .createTable('class_pages', (table) => {
        table.text('class_id').primary().references('classes.id');
        table.text('token_hash').notNullable().unique();
        table.text('token_sealed').notNullable();
        table.text('given_at').notNullable();
        table.text('taken_away_at');
        table.text('teacher_id').notNullable().defaultTo(FIRST_TEACHER);
      })
      .createTable('passes', (table) => {
        table.text('token_hash').primary();
        /** Whose page it is on: a student's, or a class's. */
        table.text('student_id').references('students.id').index();
        table.text('class_id').references('classes.id').index();
        table.text('hand_out_id').notNullable().references('hand_outs.id').index();
        table.text('teacher_id').notNullable().defaultTo(FIRST_TEACHER);
      })
      .createTable('openings', (table) => {
        table.text('hand_out_id').notNullable().references('hand_outs.id');
        table.text('student_id').notNullable().references('students.id').index();
        table.text('first_at').notNullable();
        table.text('last_at').notNullable();
        table.integer('times').notNullable();
        table.text('teacher_id').notNullable().defaultTo(FIRST_TEACHER);
        table.primary(['hand_out_id', 'student_id']);
      });
    // Until now all were for anyone with the link.
    await knex.raw(
      `insert into grants (id, hand_out_id, whom) select lower(hex(randomblob(10))), id, 'anyone' from hand_outs`,
    );
  },
  '021-letters': (knex) =>
    knex.schema
      .createTable('mailings', (table) => {
        table.text('id').primary();
        table.text('hand_out_id').notNullable().references('hand_outs.id').index();
        /** The teacher's own words. */
        table.text('note').notNullable();
        /** Where browsers reach this server, as it was when they were written. */
        table.text('origin').notNullable();
        table.text('at').notNullable();
        table.text('teacher_id').notNullable().defaultTo(FIRST_TEACHER);
      })
      .createTable('letters', (table) => {
        table.text('id').primary();
        table.text('hand_out_id').notNullable().references('hand_outs.id').index();
        table.text('student_id').notNullable().references('students.id').index();
        table.text('mailing_id').notNullable().references('mailings.id');
        table.text('state').notNullable().index();
        /** When it was written, sent, or tried last. */
        table.text('at').notNullable();
        table.integer('tries').notNullable();
        table.text('problem');
        table.text('teacher_id').notNullable().defaultTo(FIRST_TEACHER);
      }),
  '022-watched': (knex) =>
    knex.schema.createTable('watched', (table) => {
      table.text('hand_out_id').notNullable().references('hand_outs.id');
      /** A student, or one visit of somebody without a name. */
      table.text('viewer').notNullable();
      /** Of which film: its seconds are no other's. */
      table.text('version').notNullable();
      table.text('student_id').references('students.id').index();
      /** How often each second was watched (`core/watched/seconds`). */
      table.text('seconds').notNullable();
      table.text('visits').notNullable();
      table.text('first_at').notNullable();
      table.text('last_at').notNullable().index();
      table.text('teacher_id').notNullable().defaultTo(FIRST_TEACHER);
      table.primary(['hand_out_id', 'viewer', 'version']);
    }),
  '023-archive': (knex) =>
    knex.schema.alterTable('lessons', (table) => {
      table.text('archived_at');
    }),
  '024-answers': (knex) =>
    knex.schema.createTable('answers', (table) => {
      table.text('hand_out_id').notNullable().references('hand_outs.id');
      table.text('moment_id').notNullable();
      /** A student, or a device that somebody without a name answers on. */
      table.text('viewer').notNullable();
      table.text('student_id').references('students.id').index();
      /** What was asked, as it was then. */
      table.text('text').notNullable();
      table.text('asked').notNullable();
      table.text('answer').notNullable();
      table.integer('right');
      table.text('at').notNullable().index();
      table.text('teacher_id').notNullable().defaultTo(FIRST_TEACHER);
      table.primary(['hand_out_id', 'moment_id', 'viewer']);
    }),
  '025-submissions': async (knex) => {
    await knex.schema.alterTable('hand_outs', (table) => {
      /** What is to be done afterwards (`core/submission/assignment`), JSON. */
      table.text('activity');
    });
    await knex.schema.createTable('submissions', (table) => {
      table.text('hand_out_id').notNullable().references('hand_outs.id');
      /** A student, or a device that somebody without an address of their own hands in on. */
      table.text('viewer').notNullable();
      table.text('student_id').references('students.id').index();
      /** Who they say they are, where they have no address of their own. */
      table.text('said_name').notNullable();
      table.text('text').notNullable();
      table.text('at').notNullable();
      table.text('teacher_id').notNullable().defaultTo(FIRST_TEACHER);
      table.primary(['hand_out_id', 'viewer']);
    });
    await knex.schema.createTable('submission_files', (table) => {
      table.text('id').primary();
      table.text('hand_out_id').notNullable().references('hand_outs.id');
      table.text('viewer').notNullable();
      table.text('student_id').references('students.id').index();
      table.text('name').notNullable();
      table.text('by').notNullable();
      /** What it turned out to be; null: it is still coming. */
      table.text('kind');
      table.integer('bytes').notNullable();
      table.integer('length_us');
      /** 1: it is part of what was handed in. */
      table.integer('handed').notNullable();
      table.text('at').notNullable();
      table.text('teacher_id').notNullable().defaultTo(FIRST_TEACHER);
      table.index(['hand_out_id', 'viewer']);
    });
  },
  '026-course-sites': async (knex) => {
    await knex.schema.createTable('course_sites', (table) => {
      table.text('id').primary();
      table.text('name').notNullable();
      table.text('issuer').notNullable();
      table.text('client_id').notNullable();
      table.text('auth_address').notNullable();
      table.text('token_address').notNullable();
      table.text('keys_address').notNullable();
      table.text('created_at').notNullable();
      table.text('teacher_id').notNullable().defaultTo(FIRST_TEACHER);
      table.unique(['issuer', 'client_id']);
    });
    await knex.schema.createTable('site_courses', (table) => {
      table.text('site_id').notNullable().references('course_sites.id');
      table.text('course_id').notNullable();
      table.text('title').notNullable();
      table.text('class_id');
      table.text('roster_address');
      table.text('teacher_id').notNullable().defaultTo(FIRST_TEACHER);
      table.primary(['site_id', 'course_id']);
    });
    await knex.schema.createTable('site_people', (table) => {
      table.text('site_id').notNullable().references('course_sites.id');
      /** What the site knows them by. */
      table.text('sub').notNullable();
      table.text('student_id').notNullable().references('students.id').index();
      table.text('teacher_id').notNullable().defaultTo(FIRST_TEACHER);
      table.primary(['site_id', 'sub']);
    });
    await knex.schema.createTable('site_nonces', (table) => {
      table.text('hash').primary();
      /** ms since 1970 */
      table.integer('until').notNullable().index();
      table.text('teacher_id').notNullable().defaultTo(FIRST_TEACHER);
    });
  },
  '027-site-scores': async (knex) => {
    await knex.schema.createTable('site_scores', (table) => {
      table.text('site_id').notNullable().references('course_sites.id');
      /** Where scores of a link are given (an address of the site's). */
      table.text('line_item').notNullable();
      /** What the site knows them by. */
      table.text('sub').notNullable();
      table.text('hand_out_id').notNullable().references('hand_outs.id');
      table.text('student_id').notNullable().references('students.id').index();
      table.text('gives').notNullable();
      /** When they last did something that it is given for. */
      table.text('changed_at');
      /** When it is to be given, ms since 1970; null: there is nothing to be given. */
      table.integer('due_at').index();
      table.integer('tries').notNullable().defaultTo(0);
      /** Why it could not be given the last time; null: it could. */
      table.text('problem');
      /** What was given last, JSON; null: nothing was. */
      table.text('given');
      table.text('teacher_id').notNullable().defaultTo(FIRST_TEACHER);
      table.primary(['site_id', 'line_item', 'sub']);
      table.index(['hand_out_id', 'student_id']);
    });
  },
  '028-ended-films': async (knex) => {
    await knex.schema.alterTable('hand_out_films', (table) => {
      /** When its teacher stopped it for those who had it open; null: it ends by itself. */
      table.text('ended_at');
    });
  },
  '029-same-person': async (knex) => {
    await knex.schema.alterTable('site_people', (table) => {
      /** An existing student who may be the same person; null: none, or the teacher has answered. */
      table.text('maybe_student_id').references('students.id').index();
      /** Why: `address` or `name`. */
      table.text('maybe_by');
    });
  },
  '030-time-zone': async (knex) => {
    await knex.schema.alterTable('mailings', (table) => {
      /** Time zone of the times in its e-mails (IANA). */
      table.text('time_zone');
    });
  },
  '009-teacher': async (knex) => {
    for (const name of OWNED) {
      await knex.schema.alterTable(name, (table) => {
        table.text('teacher_id').notNullable().defaultTo(FIRST_TEACHER);
      });
    }
  },
};

/** @param seal what tokens of links are kept with */
export const migrationsWith = (seal: LinkSeal): Knex.MigrationSource<string> => ({
  getMigrations: () => Promise.resolve(Object.keys(MIGRATIONS).sort()),
  getMigrationName: (name) => name,
  getMigration: (name) =>
    Promise.resolve({
      up: (knex) => MIGRATIONS[name]!(knex, seal),
      down: () =>
        Promise.reject(new Error('there is no way back; restore a copy of the data folder')),
    }),
});
