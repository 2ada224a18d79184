import * as z from 'zod';
import { cleanLine } from '../text/clean';
import { define, ok } from './endpoint';

export const sessionSchema = z.object({
  signedIn: z.boolean(),
  /** Whether a passphrase has been set. */
  setUp: z.boolean(),
  demo: z.boolean(),
  teacherName: z.string(),
});
export type Session = z.infer<typeof sessionSchema>;

/** Fewest characters of a passphrase. */
export const LEAST_PASSPHRASE = 10;

export const passphraseSchema = z.string().min(LEAST_PASSPHRASE).max(400);
export const teacherNameSchema = z.string().overwrite(cleanLine).trim().min(1).max(140);

export const SESSION = define({
  session: {
    method: 'get',
    path: '/api/session',
    summary: 'Who is signed in.',
    answer: sessionSchema,
    from: 'anyone',
  },
  signIn: {
    method: 'post',
    path: '/api/session',
    summary: 'Sign in with the passphrase.',
    body: z.object({ passphrase: z.string().min(1).max(400) }),
    answer: sessionSchema,
    from: 'anyone',
  },
  signOut: { method: 'delete', path: '/api/session', summary: 'Sign out.', answer: ok },
  setTeacher: {
    method: 'post',
    path: '/api/teacher',
    summary: 'Change the teacher’s name, as students see it.',
    body: z.object({ teacherName: teacherNameSchema }),
    answer: sessionSchema,
  },
  setPassphrase: {
    method: 'post',
    path: '/api/passphrase',
    summary: 'Change the passphrase. All other browsers are signed out.',
    body: z.object({ now: z.string().max(400), next: passphraseSchema }),
    answer: ok,
  },
  setUp: {
    method: 'post',
    path: '/api/set-up',
    summary:
      'First start: set the teacher’s name and passphrase, with the code printed by the server.',
    body: z.object({
      code: z.string().max(100),
      teacherName: teacherNameSchema,
      passphrase: passphraseSchema,
    }),
    answer: sessionSchema,
    from: 'anyone',
  },
});
