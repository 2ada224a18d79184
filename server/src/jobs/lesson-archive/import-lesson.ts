import { AppError } from '@under-chalk/core/errors/errors';
import {
  ARCHIVE_DOCUMENT,
  idsIn,
  materialPath,
  MOST_DOCUMENT_BYTES,
  readArchiveText,
  renamed,
  trackName,
  type LessonArchive,
} from '@under-chalk/core/out/lesson-archive';
import type { Track } from '@under-chalk/core/lesson/take';
import { MOST_MATERIAL_BYTES } from '@under-chalk/core/material/material';
import { isDiskFull } from '@under-chalk/render';
import type { Knex } from 'knex';
import { createHash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Transform } from 'node:stream';
import { text } from 'node:stream/consumers';
import { pipeline } from 'node:stream/promises';
import { crc32 } from 'node:zlib';
import type { Folders } from '../../config';
import { forceToDisk } from '../../store/force-to-disk';
import { LessonArchiveStore } from '../../store/lesson-archive-store';
import { LessonStore } from '../../store/lesson-store';
import { keepMaterial } from '../../store/material-files';
import { MaterialStore } from '../../store/material-store';
import type { ClassMaterials } from '../../store/class-materials';
import { TakeStore } from '../../store/take-store';
import { freeBytes } from '../../store/free-bytes';
import { openZip, type ZipArchive } from './open-zip';

export interface ImportParts {
  readonly db: Knex;
  readonly folders: Folders;
  readonly classMaterials: ClassMaterials;
  /** Most bytes that a track may have. */
  readonly mostBytes: number;
}

interface Opening extends ImportParts {
  readonly archive: ZipArchive;
  readonly signal: AbortSignal;
  /** Told of bytes that are looked through. */
  readonly tell: (bytes: number) => void;
}

/** A file to be taken out of an archive. */
interface Wanted {
  readonly name: string;
  readonly to: string;
  readonly mostBytes: number;
}

/** What is in the way of an archive's names: those that are here already. */
const takenOf = async (db: Knex, ids: readonly string[]): Promise<boolean> => {
  for (const table of ['lessons', 'takes', 'tracks', 'materials']) {
    for (let from = 0; from < ids.length; from += 500) {
      if (
        await db(table)
          .whereIn('id', ids.slice(from, from + 500))
          .first('id')
      )
        return true;
    }
  }
  return false;
};

/** Another name for something of an archive: always the same, so that what was begun is done again in its place. */
const otherName = (importId: string, id: string): string =>
  createHash('sha256').update(`${importId} ${id}`).digest('hex').slice(0, 20);

const takeOut = async (
  { archive, signal, tell }: Opening,
  { name, to, mostBytes }: Wanted,
): Promise<void> => {
  if ((archive.bytesOf(name) ?? 0) > mostBytes) throw new AppError('too-large', name);
  let check = 0;
  const watched = new Transform({
    transform(bytes: Buffer, _encoding, done) {
      check = crc32(bytes, check);
      tell(bytes.length);
      done(null, bytes);
    },
  });
  const from = await archive.read(name);
  try {
    await pipeline(from.bytes, watched, createWriteStream(to, { flush: true }), { signal });
  } catch (error) {
    if (signal.aborted || isDiskFull(error)) throw error;
    throw new AppError('archive-unreadable', `${name}: ${String(error)}`);
  }
  if (check !== from.crc32) throw new AppError('archive-unreadable', `damage in ${name}`);
};

/** Takes the files of a lesson archive's materials among those that are here. Each is known by its content. */
const keepMaterials = async (opening: Opening, bundle: LessonArchive): Promise<void> => {
  const { folders } = opening;
  const seen = new Set<string>();
  for (const material of bundle.materials) {
    const name = materialPath(material);
    if (!name || seen.has(name)) continue;
    seen.add(name);
    const to = join(folders.incoming, `${material.id}.part`);
    try {
      await takeOut(opening, { name, to, mostBytes: MOST_MATERIAL_BYTES });
      const content = await keepMaterial(folders, to, material.name);
      if (content !== material.content) throw new AppError('archive-lacking', name);
    } finally {
      await rm(to, { force: true });
    }
  }
};

/**
 * Makes a lesson of an archive: looks all of it through first, puts its tracks where footage comes in, and then, at one
 * stroke, the lesson into the database. Its takes are to be processed and its materials to be read, as if they had just
 * come. Under its own names where those are free, else under others.
 *
 * @param path where the archive is
 * @param importId names this opening
 * @param onProgress told how much of it is looked through, 0 to 1
 * @returns the id of the lesson
 * @throws AppError `archive-unreadable`, `archive-newer`, `archive-lacking`, `archive-swollen`, `too-large`, `disk-full`; nothing of
 *   it is in a lesson then
 */
export const importLesson = async (
  path: string,
  importId: string,
  parts: ImportParts,
  onProgress: (share: number) => void,
  signal: AbortSignal,
): Promise<string> => {
  const { db, folders, mostBytes } = parts;
  const archive = await openZip(path);
  const written: string[] = [];
  try {
    const documentBytes = archive.bytesOf(ARCHIVE_DOCUMENT);
    if (documentBytes === null || documentBytes > MOST_DOCUMENT_BYTES)
      throw new AppError('archive-unreadable', `a document of ${documentBytes} bytes`);
    const own = readArchiveText(await text((await archive.read(ARCHIVE_DOCUMENT)).bytes));
    const mustChange = await takenOf(db, idsIn(own));
    const bundle = mustChange ? renamed(own, (id) => otherName(importId, id)) : own;

    // In the same order in both: the names in the archive, and those that they have here.
    const [ownTracks, tracks] = [own, bundle].map(({ takes }) =>
      takes.flatMap((take) => take.tracks),
    ) as [Track[], Track[]];
    const names = [
      ...ownTracks.map(trackName),
      ...own.materials.flatMap((one) => materialPath(one) ?? []),
    ];
    const sizes = names.map((name) => archive.bytesOf(name));
    const lacking = names.find((_, index) => sizes[index] === null);
    if (lacking) throw new AppError('archive-lacking', lacking);
    const all = sizes.reduce<number>((sum, bytes) => sum + bytes!, 0);
    await mkdir(folders.incoming, { recursive: true });
    // Its footage is here twice while it is made ready.
    if (2 * all > (await freeBytes(folders.incoming)))
      throw new AppError('disk-full', `${all} bytes`);

    let seen = 0;
    const tell = (bytes: number) => onProgress(Math.min(1, (seen += bytes) / Math.max(1, all)));
    const opening: Opening = { ...parts, archive, signal, tell };
    for (const [index, { id }] of tracks.entries()) {
      const track = ownTracks[index]!;
      const to = join(folders.incoming, id);
      written.push(to);
      await takeOut(opening, { name: trackName(track), to, mostBytes });
    }
    await keepMaterials(opening, bundle);
    await forceToDisk(folders.incoming);
    signal.throwIfAborted();

    await db.transaction(async (trx) => {
      const takes = new TakeStore(trx);
      await new LessonStore(trx, takes).bringIn(bundle.lessonId, bundle.edits);
      for (const take of bundle.takes) await takes.bringIn(bundle.lessonId, take);
      const materials = new MaterialStore(trx, parts.classMaterials);
      for (const material of bundle.materials) {
        if (material.content) await materials.bringIn(bundle.lessonId, material);
      }
      await new LessonArchiveStore(trx).isIn(importId, bundle.lessonId);
    });
    return bundle.lessonId;
  } catch (error) {
    await Promise.all(written.map((file) => rm(file, { force: true })));
    throw isDiskFull(error) ? new AppError('disk-full', String(error)) : error;
  } finally {
    archive.close();
  }
};
