import { longestEditList } from '@under-chalk/core/mp4/box';
import { containerIn, HEAD_BYTES } from '@under-chalk/core/mp4/container';
import type { Demuxer, MediaFile } from '@under-chalk/render';
import { AppError } from '@under-chalk/core/errors/errors';
import { open } from 'node:fs/promises';
import { boxesOf } from '@under-chalk/render';

/**
 * Which demuxer a file is opened with, told by its first bytes and never by its name or by asking
 * ffmpeg to guess: only containers that are wanted reach a parser.
 *
 * @throws AppError `file-empty`, `file-not-film`
 */
export const containerOf = async (path: string): Promise<Demuxer> => {
  const file = await open(path, 'r');
  try {
    const head = Buffer.alloc(HEAD_BYTES);
    const { bytesRead } = await file.read(head, 0, head.length, 0);
    if (bytesRead === 0) throw new AppError('file-empty');
    const container = containerIn(head);
    if (!container) throw new AppError('file-not-film');
    return container;
  } finally {
    await file.close();
  }
};

/** Most entries of an edit list that are obeyed. Films have one or two; one that is cut together without being encoded, some dozens. */
const MOST_EDITS = 200;
/** Most bytes of a film's head that are looked into. */
const MOST_HEAD_BYTES = 64_000_000;

/**
 * A file somebody brought, to be opened: with the demuxer for what it is, and without its edit lists where
 * they are so long that following them would be all that is ever done.
 *
 * @throws AppError `file-empty`, `file-not-film`
 */
export const foreignFile = async (path: string): Promise<MediaFile> => {
  const demuxer = await containerOf(path);
  if (demuxer !== 'mov') return { path, demuxer };
  const file = await open(path, 'r');
  try {
    const { size } = await file.stat();
    for await (const box of boxesOf(file, size)) {
      if (box.name !== 'moov' || box.length > MOST_HEAD_BYTES) continue;
      const moov = Buffer.alloc(box.length - box.headerBytes);
      await file.read(moov, 0, moov.length, box.at + box.headerBytes);
      if (longestEditList(moov) > MOST_EDITS) return { path, demuxer, ignoreEdits: true };
    }
    return { path, demuxer };
  } finally {
    await file.close();
  }
};
