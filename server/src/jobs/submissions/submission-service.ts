import { AppError } from '@under-chalk/core/errors/errors';
import { RECORDED_MS, type SubmissionFile } from '@under-chalk/core/submission/submission';
import { fileNameOf } from '@under-chalk/core/lesson/file-name';
import { openOptions, run, type Limits, type MediaFile } from '@under-chalk/render';
import pLimit from 'p-limit';
import { mkdir, open, readdir, rename, rm, stat } from 'node:fs/promises';
import { extname, join } from 'node:path';
import type { Folders } from '../../config';
import type { Log } from '../../log';
import { forceToDisk } from '../../store/force-to-disk';
import { freeBytes } from '../../store/free-bytes';
import type { AnnouncedFile, Giver, SubmissionStore } from '../../store/submission-store';
import { TrackBytes } from '../../store/track-bytes';
import { heavyWork } from '../heavy-work';
import { packetTimes } from '../ingest/probe';
import { HEAD_BYTES, takenKind } from './file-kinds';
import { FirstPages } from './first-page';

/** Less room than this is left to lessons, bytes. */
const ROOM_BYTES = 2_000_000_000;
/** Files that nobody has handed in for so long are let go, ms. */
const LOOSE_MS = 3 * 86_400_000;
/** What a recording may take to be made playable everywhere. */
const LIMITS: Limits = { deadlineMs: 60_000, memoryBytes: 3e9, background: true };
/** A recording may end a little after it was told to, s. */
const MOST_S = RECORDED_MS / 1000 + 1;

/** How a voice and a camera are kept: so that they play anywhere. */
const VOICE = ['-vn', '-c:a', 'aac', '-b:a', '96k', '-ac', '1'];
const CAMERA = [
  ...[
    '-map',
    '0:v:0',
    '-map',
    '0:a:0?',
    '-vf',
    'scale=w=640:h=640:force_original_aspect_ratio=decrease:force_divisible_by=2,format=yuv420p',
  ],
  ...['-c:v', 'libx264', '-preset', 'veryfast', '-crf', '24', '-r', '30', '-threads', '1'],
  ...['-c:a', 'aac', '-b:a', '96k', '-ac', '1'],
];

const headOf = async (path: string): Promise<Uint8Array> => {
  const file = await open(path, 'r');
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(HEAD_BYTES), 0, HEAD_BYTES, 0);
    return buffer.subarray(0, bytesRead);
  } finally {
    await file.close();
  }
};

/** The files of a folder; none where it isn't there. */
const filesIn = async (folder: string) => {
  const names = await readdir(folder).catch(() => []);
  const all = names.map(async (name) => {
    const path = join(folder, name);
    const facts = await stat(path).catch(() => null);
    return facts ? [{ name, path, bytes: facts.size, changedMs: facts.mtimeMs }] : [];
  });
  return (await Promise.all(all)).flat();
};

interface TakeServiceParts {
  readonly folders: Folders;
  readonly submissions: SubmissionStore;
  readonly log: Log;
  /** The built reader's process; empty: nothing is to be seen at a glance. */
  readonly readerScript: string;
}

/** The files that students hand in: taken in when all of each has come, and gone with what they belonged to. */
export class SubmissionService {
  readonly #parts: TakeServiceParts;
  readonly #inTurn = pLimit(2);
  readonly #firstPages: FirstPages;
  readonly #taking = new Map<string, Promise<SubmissionFile>>();
  /** Bytes as they come in, for the tus server. */
  readonly coming: TrackBytes;

  constructor(parts: TakeServiceParts) {
    this.#parts = parts;
    this.#firstPages = new FirstPages(parts.readerScript);
    this.coming = new TrackBytes(parts.folders.submissionsComing);
  }

  /** Where a file is that has come. Its id has been checked. */
  pathOf(id: string): string {
    return join(this.#parts.folders.submissions, id);
  }

  /** What there is to be seen of a file at a glance. @returns its path, WebP @throws AppError `not-found` where there is nothing */
  pictureOf(file: SubmissionFile): Promise<string> {
    return this.#firstPages.of(file, this.pathOf(file.id));
  }

  /** @throws AppError `disk-full` where there is no room for more */
  async mindRoom(): Promise<void> {
    if ((await freeBytes(this.#parts.folders.home)) < ROOM_BYTES)
      throw new AppError('disk-full', 'for what is handed in');
  }

  /**
   * All of a file has come: it is looked at, and kept. Asked again, it is the same.
   *
   * @throws AppError `not-found`; `not-ready` while bytes are missing; `file-not-taken`, `sound-unreadable`, `film-unreadable`
   */
  async came(giver: Giver, id: string): Promise<SubmissionFile> {
    const row = await this.#parts.submissions.file(giver, id);
    const { kind } = row;
    if (kind !== null)
      return { id, name: row.name, by: row.by, kind, bytes: row.bytes, lengthUs: row.length_us };
    let taking = this.#taking.get(id);
    if (!taking) {
      taking = this.#inTurn(() => this.#take(id, row)).finally(() => this.#taking.delete(id));
      this.#taking.set(id, taking);
    }
    return taking;
  }

  async #take(
    id: string,
    { by, name, bytes }: { by: SubmissionFile['by']; name: string; bytes: number },
  ): Promise<SubmissionFile> {
    const { submissions, folders } = this.#parts;
    const incoming = join(folders.submissionsComing, id);
    const there = await stat(incoming).catch(() => null);
    if (there?.size !== bytes) throw new AppError('not-ready', `file ${id}`);
    await mkdir(folders.submissions, { recursive: true });
    try {
      const found = takenKind(await headOf(incoming), name);
      if (!found) throw new AppError('file-not-taken', `file ${id}`);
      if (by === 'file') {
        await rename(incoming, this.pathOf(id));
        await forceToDisk(folders.submissions);
        const base = name.slice(0, name.length - extname(name).length);
        const facts = { kind: found.kind, bytes, length_us: null };
        return await submissions.came(id, {
          ...{ ...facts, name: fileNameOf(base || name, found.ending.slice(1)) },
        });
      }
      await this.#makePlayable(incoming, id, by, found.ending);
      const { endUs } = await packetTimes({ path: this.pathOf(id), demuxer: 'mov' });
      const isVoice = by === 'voice';
      return await submissions.came(id, {
        ...{ kind: isVoice ? 'sound' : 'film', length_us: endUs },
        bytes: (await stat(this.pathOf(id))).size,
        name: isVoice ? 'Voice.m4a' : 'Camera.mp4',
      });
    } catch (error) {
      // What can't be taken isn't kept; what failed for want of room or time is tried again.
      if (error instanceof AppError && error.code !== 'disk-full') await submissions.refuse(id);
      throw error;
    } finally {
      if (!(await submissions.coming(id))) {
        await rm(incoming, { force: true });
        await rm(`${incoming}.length`, { force: true });
      }
    }
  }

  /** @throws AppError `sound-unreadable`, `film-unreadable` */
  async #makePlayable(
    incoming: string,
    id: string,
    by: 'voice' | 'camera',
    ending: string,
  ): Promise<void> {
    const { folders, log } = this.#parts;
    const media: MediaFile = {
      path: incoming,
      demuxer: ending === '.webm' ? 'matroska' : 'mov',
    };
    const draft = join(folders.submissions, `${id}.draft`);
    try {
      const args = [
        ...[...openOptions(media), '-i', incoming, '-t', String(MOST_S)],
        ...['-map_metadata', '-1', '-map_chapters', '-1'],
        ...(by === 'voice' ? ['-map', '0:a:0', ...VOICE] : CAMERA),
        ...['-movflags', '+faststart', '-f', 'mp4', draft],
      ];
      await heavyWork.run('submission', () => run('ffmpeg', args, undefined, LIMITS));
      await forceToDisk(draft);
      await rename(draft, this.pathOf(id));
    } catch (error) {
      log.warn(`what was recorded for a submission can’t be read: ${id}`, error);
      throw new AppError(by === 'voice' ? 'sound-unreadable' : 'film-unreadable', id);
    } finally {
      await rm(draft, { force: true });
    }
  }

  /** A file will come. @throws AppError as {@link SubmissionStore.announce} */
  async announce(giver: Giver, file: AnnouncedFile): Promise<void> {
    await this.#parts.submissions.announce(giver, file, await this.#received());
  }

  /** Bytes of a file are coming. @throws AppError `too-many-submissions` */
  async mindComing(id: string): Promise<void> {
    await this.#parts.submissions.mindComing(id, await this.#received());
  }

  /** How many bytes have come of each file that isn't whole. */
  async #received(): Promise<Map<string, number>> {
    const { submissionsComing } = this.#parts.folders;
    const found = await filesIn(submissionsComing);
    return new Map(found.map(({ name, bytes }) => [name, bytes]));
  }

  /** Removes what belongs to nothing any more. `now` in ms since 1970. */
  async sweep(now = Date.now()): Promise<void> {
    const { folders, submissions } = this.#parts;
    // Looked through before it is asked what is known: what comes meanwhile is in neither.
    const [kept, coming] = [
      await filesIn(folders.submissions),
      await filesIn(folders.submissionsComing),
    ];
    const looseMs = now - LOOSE_MS;
    const still = coming.filter(({ changedMs }) => changedMs > looseMs).map(({ name }) => name);
    const known = await submissions.known(new Date(looseMs).toISOString(), still);
    for (const { path, name } of [...kept, ...coming]) {
      // Drafts and lengths are named by what they are of.
      if (!known.has(name.split('.')[0]!)) await rm(path, { force: true });
    }
  }
}
