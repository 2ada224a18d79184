import { WATCH_SUBMISSIONS } from '@under-chalk/core/contract/watch-submissions';
import {
  submissionFileSchema,
  submissionSchema,
  type Submission,
  type SubmissionFile,
} from '@under-chalk/core/submission/submission';
import * as z from 'zod';
import { send } from '../../../data/fetch';

const pathOf = (name: keyof typeof WATCH_SUBMISSIONS, token: string) =>
  WATCH_SUBMISSIONS[name].path.replace(':token', encodeURIComponent(token));

const posted = async (path: string, body: object): Promise<unknown> =>
  (
    await send(path, {
      ...{ method: 'POST', headers: { 'Content-Type': 'application/json' } },
      body: JSON.stringify(body),
    })
  ).json();

/** What was handed in from this address, or on this device, before; null: nothing. @throws AppError */
export const fetchSubmission = async (token: string, visitor: string): Promise<Submission | null> =>
  z
    .object({ submission: submissionSchema.nullable() })
    .parse(await (await send(`${pathOf('ownSubmission', token)}?visitor=${visitor}`, {})).json())
    .submission;

/** Hands in. @throws AppError */
export const sendSubmission = async (token: string, body: object): Promise<Submission> =>
  submissionSchema.parse(await posted(pathOf('submit', token), body));

/** Says that a file is coming. @throws AppError */
export const announceFile = async (token: string, body: object): Promise<void> => {
  await posted(pathOf('announceSubmissionFile', token), body);
};

/** All of a file has been sent. @returns what it is @throws AppError */
export const fileCame = async (
  token: string,
  fileId: string,
  visitor: string,
): Promise<SubmissionFile> =>
  submissionFileSchema.parse(
    await posted(pathOf('submissionFileCame', token).replace(':fileId', fileId), { visitor }),
  );
