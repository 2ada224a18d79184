import type { Knex } from 'knex';

/** Tables in which something is known of a student, by `student_id`. */
const TABLES = [
  'passes',
  'views',
  'viewings',
  'answers',
  'submission_files',
  'submissions',
  'site_people',
  'site_scores',
  'mail',
  'student_pages',
  'class_students',
];

/** Erases students with all that is known of them. */
export const eraseStudents = async (trx: Knex, ids: readonly string[]): Promise<number> => {
  const whose = [...ids];
  for (const table of TABLES) await trx(table).whereIn('student_id', whose).delete();
  await trx('site_people').whereIn('maybe_student_id', whose).update({ maybe_student_id: null });
  // What the teacher wrote to nobody else goes with them.
  await trx('mail_batches')
    .whereNotExists(trx('mail').whereRaw('mail.batch_id = mail_batches.id'))
    .delete();
  await trx('grants').where({ grantee: 'student' }).whereIn('grantee_id', whose).delete();
  return trx('students').whereIn('id', whose).delete();
};
