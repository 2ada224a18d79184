import { useCallback, useEffect, useRef, useState } from 'react';
import * as z from 'zod';
import { SUBMISSION_UPLOADS_PATH } from '@under-chalk/core/contract/watch-submissions';
import { submissionBySchema } from '@under-chalk/core/submission/assignment';
import {
  submissionSchema,
  type Submission,
  type SubmissionFile,
} from '@under-chalk/core/submission/submission';
import { newId } from '../../../capture/new-id';
import { sendFile } from '../../../capture/sending/send-file';
import { codeOf } from '../../../data/fetch';
import { useKept } from '../../../data/kept-setting';
import { announceFile, fetchSubmission, fileCame, sendSubmission } from './submission-data';
import { isForLater, useToldAgain } from '../use-told-again';
import { submissionKey } from './submission-key';
import { dropFile, keepFile, keptFile } from './kept-files';

const fileSchema = z.object({
  id: z.string(),
  name: z.string(),
  by: submissionBySchema.exclude(['words']),
  bytes: z.number(),
  /** `there`: the server has it; `gone`: neither it nor this browser has. */
  state: z.enum(['coming', 'there', 'refused', 'gone']),
  /** Why it was refused: a code of the table of errors. */
  problem: z.string().nullable(),
});
/** A file that is to be handed in, and how it stands with it. */
export type FileToSubmit = z.infer<typeof fileSchema>;

const keptSchema = z.object({
  visitor: z.string(),
  name: z.string(),
  text: z.string(),
  files: z.array(fileSchema),
  /** It was pressed: what stands here is handed in as soon as it can be. */
  pressed: z.boolean(),
  /** What was handed in last. */
  given: submissionSchema.nullable(),
});
type Kept = z.infer<typeof keptSchema>;

const nothing = (): Kept => ({
  ...{ visitor: newId(), name: '', text: '', files: [], pressed: false, given: null },
});

const asFileToSubmit = ({ id, name, by, bytes }: SubmissionFile): FileToSubmit => ({
  ...{ id, name, by, bytes, state: 'there', problem: null },
});

/** Whether what stands here is what was handed in. */
const isGiven = ({ text, files, given }: Kept): boolean =>
  given !== null &&
  given.text === text.trim() &&
  given.files
    .map(({ id }) => id)
    .sort()
    .join() ===
    files
      .map(({ id }) => id)
      .sort()
      .join();

export interface SubmissionWork {
  readonly name: string;
  readonly text: string;
  readonly files: readonly FileToSubmit[];
  readonly given: Submission | null;
  /** It is waiting for its files, or for the line. */
  readonly pressed: boolean;
  /** What stands here is what was handed in. */
  readonly isGiven: boolean;
  /** Why it wasn't taken: a code of the table of errors; null: it was, or wasn't tried. */
  readonly problem: string | null;
  /** How far each file has come, 0 to 1. */
  readonly done: Readonly<Record<string, number>>;
  readonly write: (change: { name?: string; text?: string }) => void;
  readonly add: (by: FileToSubmit['by'], name: string, bytes: Blob) => void;
  readonly drop: (id: string) => void;
  readonly submission: () => void;
}

/**
 * What somebody hands in: kept in this browser with each key that is pressed and each file that is chosen, sent as soon as the line is
 * there, and taken up again when the page is.
 */
export const useSubmission = (token: string, named: boolean): SubmissionWork => {
  const key = submissionKey(token);
  const { kept, latest, change } = useKept(key, keptSchema, nothing);
  const [problem, setProblem] = useState<string | null>(null);
  const [done, setDone] = useState<Record<string, number>>({});
  const ofFile = useCallback(
    (id: string, part: Partial<FileToSubmit>) =>
      change((before) => ({
        ...before,
        files: before.files.map((file) => (file.id === id ? { ...file, ...part } : file)),
      })),
    [change],
  );

  const sending = useRef(new Set<string>());
  const send = useCallback(
    async ({ id, name, by }: FileToSubmit) => {
      if (sending.current.has(id)) return;
      sending.current.add(id);
      const { visitor } = latest();
      try {
        const bytes = await keptFile(id);
        if (!bytes) return ofFile(id, { state: 'gone' });
        await announceFile(token, { visitor, id, name, by, bytes: bytes.size });
        await sendFile(
          bytes,
          id,
          (now) => setDone((before) => ({ ...before, [id]: now.done })),
          SUBMISSION_UPLOADS_PATH,
        );
        const { name: called, bytes: large } = await fileCame(token, id, visitor);
        ofFile(id, { state: 'there', name: called, bytes: large });
        await dropFile(id);
      } catch (error) {
        const code = codeOf(error);
        if (isForLater(code)) return;
        ofFile(id, { state: 'refused', problem: code });
      } finally {
        sending.current.delete(id);
      }
    },
    [latest, ofFile, token],
  );

  const busy = useRef(false);
  const tell = useCallback(async () => {
    await Promise.all(
      latest()
        .files.filter(({ state }) => state === 'coming')
        .map(send),
    );
    const { visitor, name, text, files, pressed } = latest();
    if (!pressed || busy.current || files.some(({ state }) => state !== 'there')) return;
    busy.current = true;
    const ids = files.map(({ id }) => id);
    try {
      const given = await sendSubmission(token, { visitor, name, text, files: ids });
      setProblem(null);
      change((now) => ({ ...now, given, pressed: now.pressed && !isGiven({ ...now, given }) }));
    } catch (error) {
      if (isForLater(codeOf(error))) return;
      setProblem(codeOf(error));
      change((now) => ({ ...now, pressed: false }));
    } finally {
      busy.current = false;
    }
  }, [change, latest, send, token]);

  useToldAgain(tell);

  // What was handed in on another device is gone on with here, unless something else is begun.
  useEffect(() => {
    if (!named) return;
    void fetchSubmission(token, latest().visitor)
      .then((given) => {
        if (!given) return;
        change((now) => {
          const isBegun = now.text.trim() !== '' || now.files.length > 0;
          if (isBegun && !isGiven(now)) return { ...now, given };
          return { ...now, given, text: given.text, files: given.files.map(asFileToSubmit) };
        });
      })
      .catch(() => undefined);
  }, [named, token, latest, change]);

  return {
    ...{ name: kept.name, text: kept.text, files: kept.files, given: kept.given },
    ...{ pressed: kept.pressed, isGiven: isGiven(kept), problem, done },
    write: (what) => change((now) => ({ ...now, ...what, pressed: false })),
    add: (by, name, bytes) => {
      const file: FileToSubmit = {
        ...{ id: newId(), name, by, bytes: bytes.size, state: 'coming', problem: null },
      };
      void keepFile(file.id, bytes).then(() => {
        change((now) => ({ ...now, files: [...now.files, file], pressed: false }));
        void tell();
      });
    },
    drop: (id) => {
      void dropFile(id);
      change((now) => ({
        ...now,
        files: now.files.filter((file) => file.id !== id),
        pressed: false,
      }));
    },
    submission: () => {
      change((now) => ({ ...now, pressed: true }));
      void tell();
    },
  };
};
