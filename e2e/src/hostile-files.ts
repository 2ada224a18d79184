import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';

/**
 * Files that somebody broke on purpose, or a disk by accident: made from sound ones by a seed, so that a case
 * that fails can be had again.
 */

/** Repeatable chance (mulberry32), 0 to 1. */
const chance = (seed: number) => () => {
  seed = (seed + 0x6d2b79f5) | 0;
  let mixed = Math.imul(seed ^ (seed >>> 15), 1 | seed);
  mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
  return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32;
};

type Random = () => number;
const upTo = (random: Random, most: number) => Math.floor(random() * most);
const pick = <T>(random: Random, list: readonly T[]): T => list[upTo(random, list.length)]!;

/** Sound files of several containers, a second long. */
export const soundFiles = (folder: string): Buffer[] => {
  const make = (name: string, ...args: string[]) => {
    const path = join(folder, name);
    execFileSync('ffmpeg', [
      ...['-v', 'error', '-y', '-f', 'lavfi', '-i', 'testsrc2=size=160x90:rate=15'],
      ...['-f', 'lavfi', '-i', 'sine=sample_rate=48000', '-t', '1', ...args, path],
    ]);
    return readFileSync(path);
  };
  const h264 = ['-c:v', 'libx264', '-preset', 'ultrafast', '-pix_fmt', 'yuv420p', '-c:a', 'aac'];
  return [
    make('plain.mp4', ...h264),
    make('b-frames.mov', '-c:v', 'libx264', '-bf', '3', '-pix_fmt', 'yuv420p', '-c:a', 'pcm_s16le'),
    make('fragmented.mp4', ...h264, '-movflags', '+frag_keyframe+empty_moov+default_base_moof'),
    make(
      'plain.webm',
      '-c:v',
      'libvpx',
      '-b:v',
      '200k',
      '-deadline',
      'realtime',
      '-c:a',
      'libopus',
    ),
  ];
};

/** Where boxes begin in an MP4, also those in others. Names are looked for, as a careless reader would. */
const boxes = (file: Buffer): number[] => {
  const names = [
    'ftyp',
    'moov',
    'mvhd',
    'trak',
    'tkhd',
    'edts',
    'elst',
    'mdia',
    'mdhd',
    'hdlr',
    'stbl',
  ];
  const more = [
    'stsd',
    'stts',
    'ctts',
    'stss',
    'stsc',
    'stsz',
    'stco',
    'moof',
    'traf',
    'trun',
    'mdat',
  ];
  return [...names, ...more].flatMap((name) => {
    const at = file.indexOf(name, 0, 'latin1');
    return at >= 4 ? [at - 4] : [];
  });
};

const ODD_NUMBERS = [0, 1, 7, 0x7fffffff, 0x80000000, 0xffffffff, 0xfffffff0];

const box = (name: string, content: Buffer): Buffer => {
  const head = Buffer.alloc(8);
  head.writeUInt32BE(content.length + 8, 0);
  head.write(name, 4, 'latin1');
  return Buffer.concat([head, content]);
};

/** An edit list of many entries in place of the one there is. */
const longEditList = (file: Buffer, entries: number): Buffer => {
  const at = file.indexOf('elst', 0, 'latin1') - 4;
  const moov = file.indexOf('moov', 0, 'latin1') - 4;
  if (at < 0 || moov < 0) return file;
  const content = Buffer.alloc(8 + entries * 12);
  content.writeUInt32BE(entries, 4);
  for (let entry = 0; entry < entries; entry++) {
    content.writeUInt32BE(1 + (entry % 3), 8 + entry * 12);
    content.writeUInt32BE((entry * 37) % 15_000, 12 + entry * 12);
    content.writeUInt32BE(0x10000, 16 + entry * 12);
  }
  const list = box('elst', content);
  const more = list.length - file.readUInt32BE(at);
  const longer = Buffer.concat([
    file.subarray(0, at),
    list,
    file.subarray(at + file.readUInt32BE(at)),
  ]);
  // What it lies in grows with it: the boxes named round it, as far as they begin before it.
  for (const name of ['moov', 'trak', 'edts']) {
    const outer = longer.lastIndexOf(name, at, 'latin1') - 4;
    if (outer >= 0) longer.writeUInt32BE((longer.readUInt32BE(outer) + more) >>> 0, outer);
  }
  return longer;
};

/** Ways to break a file. Each gives a new one. */
const BREAKS: Record<string, (file: Buffer, random: Random) => Buffer> = {
  torn: (file, random) => file.subarray(0, upTo(random, file.length)),
  'bits flipped': (file, random) => {
    const broken = Buffer.from(file);
    for (let flips = 1 + upTo(random, 60); flips > 0; flips--) {
      broken[upTo(random, broken.length)]! ^= 1 << upTo(random, 8);
    }
    return broken;
  },
  'a stretch of noise': (file, random) => {
    const broken = Buffer.from(file);
    const from = upTo(random, broken.length);
    const end = Math.min(broken.length, from + upTo(random, 4_000));
    for (let at = from; at < end; at++) broken[at] = upTo(random, 256);
    return broken;
  },
  'a stretch left out': (file, random) => {
    const from = upTo(random, file.length);
    return Buffer.concat([file.subarray(0, from), file.subarray(from + upTo(random, 3_000))]);
  },
  'a box of an odd length': (file, random) => {
    const broken = Buffer.from(file);
    const found = boxes(broken);
    if (found.length > 0) broken.writeUInt32BE(pick(random, ODD_NUMBERS), pick(random, found));
    return broken;
  },
  'odd numbers in a box': (file, random) => {
    const broken = Buffer.from(file);
    const found = boxes(broken);
    if (found.length === 0) return broken;
    const at = pick(random, found) + 8;
    for (let times = 0; times < 3; times++) {
      const place = at + upTo(random, 24) * 4;
      if (place + 4 <= broken.length) broken.writeUInt32BE(pick(random, ODD_NUMBERS), place);
    }
    return broken;
  },
  'a box twice': (file, random) => {
    const found = boxes(file);
    if (found.length === 0) return file;
    const at = pick(random, found);
    const end = Math.min(file.length, at + Math.max(8, file.readUInt32BE(at)));
    return Buffer.concat([file.subarray(0, end), file.subarray(at, end), file.subarray(end)]);
  },
  'many tiny boxes': (file, random) => {
    const tiny = box('free', Buffer.alloc(0));
    const many = Buffer.alloc(tiny.length * (1_000 + upTo(random, 500_000)), tiny);
    const at = file.subarray(4, 8).toString('latin1') === 'ftyp' ? file.readUInt32BE(0) : 0;
    return Buffer.concat([file.subarray(0, at), many, file.subarray(at)]);
  },
  'a long edit list': (file, random) => longEditList(file, 10 + upTo(random, 200_000)),
  'two files in one': (file, random) =>
    Buffer.concat([file, file.subarray(0, upTo(random, file.length))]),
  'a name and nothing': (file, random) =>
    Buffer.concat([file.subarray(0, 12), Buffer.alloc(upTo(random, 20_000))]),
};

export interface HostileFile {
  readonly what: string;
  readonly bytes: Buffer;
}

/** The hostile file of a seed: one of the sound ones, broken in one to three ways. */
export const hostileFile = (seed: number, sound: readonly Buffer[]): HostileFile => {
  const random = chance(seed);
  const base = upTo(random, sound.length);
  const ways = Array.from({ length: 1 + upTo(random, 3) }, () => pick(random, Object.keys(BREAKS)));
  const bytes = ways.reduce((file, way) => BREAKS[way]!(file, random), sound[base]!);
  return { what: `${base}: ${ways.join(', ')}`, bytes };
};
