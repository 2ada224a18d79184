import { reachedBy, type Mailing } from '@under-chalk/core/contract/mail';
import { TellableError } from '@under-chalk/core/errors/errors';
import type { Parts } from '../http/context';
import type { On } from '../http/route';
import { originOf } from '../http/security';
import { activityOf } from '../store/hand-out-store';

/** Letters to students, and the server that they go through. */
export const mailRoutes = (
  on: On,
  { letters, postman, mailbox, grants, submissions, handOuts, studentPages, config }: Parts,
): void => {
  on('mailSettings', () => letters.settings());

  on('setMailSettings', async ({ body }) => {
    await letters.set(body.server, body.password);
    return letters.settings();
  });

  on('tryMail', async () => {
    await postman.tryOut().catch((error: unknown) => {
      throw new TellableError('mail-not-taken', (error as Error).message, { cause: error });
    });
    return { ok: true as const };
  });

  const mailingOf = async (handOutId: string): Promise<Mailing> => {
    const handOut = await handOuts.get(handOutId);
    const { id } = handOut;
    const handsIn = (activityOf(handOut)?.by.length ?? 0) > 0;
    const handed = await submissions.studentsOf(id);
    const openings = await grants.openings(id);
    const reachable = await studentPages.reachable(openings.map(({ studentId }) => studentId));
    const last = await letters.lastOf(id);
    return {
      practice: (await letters.settings()).server === null,
      students: openings.map(({ studentId, name, times }) => {
        const letter = last.get(studentId);
        return {
          ...{ studentId, name, opened: times > 0, reachable: reachable.has(studentId) },
          handedIn: handsIn ? handed.has(studentId) : null,
          letter: letter ? { state: letter.state, at: letter.at, problem: letter.problem } : null,
        };
      }),
    };
  };

  on('mailing', ({ params }) => mailingOf(params.handOutId));

  on('writeLetters', async ({ params, body, ctx }) => {
    const { students } = await mailingOf(params.handOutId);
    const to = reachedBy(body.to, students).map(({ studentId }) => studentId);
    await studentPages.give(to);
    const origin = originOf(config.front, ctx);
    await letters.write(params.handOutId, to, {
      ...{ note: body.note, origin, timeZone: body.timeZone },
    });
    postman.send();
    return mailingOf(params.handOutId);
  });

  on('practiceMail', () => mailbox.letters());
};
