/**
 * The process that opens what was brought in. Files come from anywhere, and what is in them may be made to do harm: so
 * they are opened by nobody else, with little memory, no environment and an end that its parent sets.
 */
import { createCanvas, loadImage } from '@napi-rs/canvas';
import { writeFile } from 'node:fs/promises';
import { openFile, warm } from './files/open-file';
import {
  Unreadable,
  type Answers,
  type FromReader,
  type MaterialFile,
  type ToReader,
} from './reading';

let file: MaterialFile | null = null;

/** Pages that are darker than this in the mean, of 255, are written on in light ink. */
const DARK = 110;

const isDark = async (opened: MaterialFile): Promise<boolean> => {
  const small = await loadImage(await opened.paint(0, 64, 'png'));
  const canvas = createCanvas(64, 64);
  const context = canvas.getContext('2d');
  context.fillStyle = '#fff';
  context.fillRect(0, 0, 64, 64);
  context.drawImage(small, 0, 0, 64, 64);
  const { data } = context.getImageData(0, 0, 64, 64);
  let sum = 0;
  for (let at = 0; at < data.length; at += 4) {
    // Luma of BT.709.
    sum += 0.2126 * data[at]! + 0.7152 * data[at + 1]! + 0.0722 * data[at + 2]!;
  }
  return sum / (data.length / 4) < DARK;
};

const opened = (): MaterialFile => {
  if (!file) throw new Unreadable('unexpected', 'asked before it was opened');
  return file;
};

const answerTo = async (asked: ToReader): Promise<Answers[keyof Answers]> => {
  switch (asked.ask) {
    case 'warm':
      await warm();
      return null;
    case 'open':
      file = await openFile(asked.path, asked.name);
      return { aspects: file.aspects, dark: await isDark(file) };
    case 'words':
      return opened().words(asked.page);
    case 'paint':
      await writeFile(asked.out, await opened().paint(asked.page, asked.widthPx, asked.format));
      return null;
  }
};

// One after another: what is asked next waits until this is done.
let before: Promise<unknown> = Promise.resolve();

process.on('message', (asked: ToReader) => {
  before = before
    .then(() => answerTo(asked))
    .then(
      (answer): FromReader => ({ id: asked.id, answer }),
      (error: unknown): FromReader => ({
        id: asked.id,
        code: error instanceof Unreadable ? error.code : 'material-unreadable',
        detail: String(error).slice(0, 500),
      }),
    )
    .then((told) => process.send?.(told));
});
process.on('disconnect', () => process.exit(0));
