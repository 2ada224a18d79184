import type { Demuxer } from '@under-chalk/render';
import { TellableError } from '@under-chalk/core/errors/errors';
import { open } from 'node:fs/promises';

/**
 * Which demuxer a file is opened with, told by its first bytes and never by its name or by asking
 * ffmpeg to guess: only containers that are wanted reach a parser.
 *
 * @throws TellableError `file-empty`, `file-not-film`
 */
export const containerOf = async (path: string): Promise<Demuxer> => {
  const file = await open(path, 'r');
  try {
    const head = Buffer.alloc(12);
    const { bytesRead } = await file.read(head, 0, head.length, 0);
    if (bytesRead === 0) throw new TellableError('file-empty');
    // ISO/IEC 14496-12 §4.3: a file type box comes first. Older MOV files may begin otherwise.
    const box = head.toString('latin1', 4, 8);
    if (['ftyp', 'moov', 'mdat', 'wide', 'free', 'skip'].includes(box)) return 'mov';
    // RFC 8794 §8.1: EBML's own identifier.
    if (head.readUInt32BE(0) === 0x1a45dfa3) return 'matroska';
    throw new TellableError('file-not-film');
  } finally {
    await file.close();
  }
};
