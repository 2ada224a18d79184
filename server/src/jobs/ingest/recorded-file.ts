import { contentAt } from '@under-chalk/core/mp4/box';
import type { MediaFile } from '@under-chalk/render';
import { createReadStream, createWriteStream } from 'node:fs';
import { open, rm } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import { boxesOf } from '@under-chalk/render';

/**
 * A stretch of a recorded track that is a fragmented MP4 of its own: a head and whole fragments. A track
 * has a second one where its encoder had to be opened anew.
 */
export interface Run {
  /** Where its head begins, where its fragments do, and where the last whole one ends, bytes. */
  readonly from: number;
  readonly headEnd: number;
  readonly end: number;
}

/**
 * The runs of a file. A recording that was torn off ends in the middle of a fragment, and a decoder would
 * stumble over its last picture: that is left out. Walks over the boxes at the top.
 *
 * @returns no runs for a file that isn't fragmented
 */
export const runsIn = async (path: string): Promise<{ size: number; runs: Run[] }> => {
  const file = await open(path, 'r');
  try {
    const { size } = await file.stat();
    const runs: { from: number; headEnd: number; end: number }[] = [];
    let fragmented = false;
    for await (const box of boxesOf(file, size)) {
      const end = box.at + box.length;
      const run = runs.at(-1);
      if (box.name === 'ftyp' || !run) runs.push({ from: box.at, headEnd: end, end });
      // A fragment is its `moof` and the `mdat` after it; what comes before the first is the head.
      else if (box.name === 'moof') {
        fragmented = true;
        if (run.end === run.headEnd) run.headEnd = box.at;
      } else {
        run.end = end;
        if (box.name === 'moov') run.headEnd = end;
      }
    }
    return { size, runs: fragmented ? runs.filter((run) => run.end > run.headEnd) : [] };
  } finally {
    await file.close();
  }
};

/** What a decoder must know of a run, as text: equal, and the fragments of one can follow another's. */
const headText = async (path: string, run: Run): Promise<string> => {
  const file = await open(path, 'r');
  try {
    const bytes = Buffer.alloc(run.headEnd - run.from);
    await file.read(bytes, 0, bytes.length, run.from);
    const track = ['moov', 'trak', 'mdia'] as const;
    const stsd = contentAt(bytes, ...track, 'minf', 'stbl', 'stsd');
    // Version 0 and 1 have their timescale at different places; ours are all of one kind.
    const mdhd = contentAt(bytes, ...track, 'mdhd')?.subarray(12, 24);
    return JSON.stringify([stsd, mdhd].map((box) => box && Buffer.from(box).toString('base64')));
  } finally {
    await file.close();
  }
};

const append = (path: string, from: number, end: number, out: string, flags: 'w' | 'a') =>
  pipeline(
    createReadStream(path, { start: from, end: end - 1 }),
    createWriteStream(out, { flags }),
  );

/**
 * What of a recorded file can be read, as files: itself when it is one run and whole, else copies. The file
 * itself stays as it is, for more of it may come.
 *
 * @param draft gives a name for a copy; the caller removes them all
 * @returns one file for each run that is not like the one before
 */
export const readableFiles = async (file: MediaFile, draft: () => string): Promise<MediaFile[]> => {
  const { path } = file;
  const { size, runs } = await runsIn(path);
  const [first] = runs;
  if (!first || (runs.length === 1 && first.end === size)) return [file];
  const files: MediaFile[] = [];
  let before = '';
  for (const run of runs) {
    const head = await headText(path, run);
    const last = files.at(-1);
    if (last && head === before) await append(path, run.headEnd, run.end, last.path, 'a');
    else {
      const copy = draft();
      files.push({ ...file, path: copy });
      await append(path, run.from, run.end, copy, 'w');
    }
    before = head;
  }
  return files;
};

/** Removes the copies among readable files. */
export const removeCopies = async (path: string, files: readonly MediaFile[]): Promise<void> => {
  const copies = files.filter((file) => file.path !== path);
  await Promise.all(copies.map((file) => rm(file.path, { force: true })));
};
