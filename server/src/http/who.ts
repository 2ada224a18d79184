import type { Endpoint } from '@under-chalk/core/contract/endpoint';
import { TellableError } from '@under-chalk/core/errors/errors';
import type { HandOutStore, StoredHandOut } from '../store/hand-out-store';
import type { State } from './context';

export interface Teacher {
  readonly is: 'teacher';
  /** The session's token; null in the demo, which is opened by being on this machine. */
  readonly session: string | null;
}

export interface Student {
  readonly is: 'student';
  /** The link that brought them here: what they may see is what it hands out. */
  readonly handOut: StoredHandOut;
}

/** Who is asking. */
export type Who = Teacher | Student | { readonly is: 'anyone' };

/** Who can ask for an endpoint, once it has let them in. */
export type WhoOf<From extends Endpoint['from']> = From extends 'student'
  ? Student
  : From extends 'anyone'
    ? Exclude<Who, Student>
    : Teacher;

/** The one door: who asks, and whether they may. @throws TellableError `signed-out`, `not-found` */
export type Door = (
  state: State,
  from: Endpoint['from'],
  params: Readonly<Record<string, string>> | undefined,
) => Promise<Who>;

export const doorOf =
  (handOuts: HandOutStore): Door =>
  async ({ teacher, session }, from, params) => {
    if (from === 'student') {
      return { is: 'student', handOut: await handOuts.byToken(params?.['token'] ?? '') };
    }
    if (teacher) return { is: 'teacher', session };
    if (from === 'anyone') return { is: 'anyone' };
    throw new TellableError('signed-out');
  };
