import { SaxesParser } from 'saxes';
import type { Us } from '../../time/us';
import type { ReadCue } from '../read-cue';
import { tidied } from './cue-text';

/** What the numbers in a document count (TTML2 §7.2). */
interface Clock {
  readonly frameRate: number;
  readonly tickRate: number;
}

/** A time expression (TTML2 §12.3.1): a clock's with fractions or frames, or an offset in h, m, s, ms, f or t. µs; null where it is none. */
export const readTtmlTime = (text: string, { frameRate, tickRate }: Clock): Us | null => {
  const clock = /^(\d{2,}):(\d{2}):(\d{2})(?:\.(\d+)|:(\d{2,}))?$/.exec(text);
  if (clock) {
    const [, hours, minutes, seconds, part, frames] = clock;
    const whole = Number(hours) * 3600 + Number(minutes) * 60 + Number(seconds);
    const more = part ? Number(`0.${part}`) : frames ? Number(frames) / frameRate : 0;
    return Math.round((whole + more) * 1e6);
  }
  const offset = /^(\d+(?:\.\d+)?)(h|m|s|ms|f|t)$/.exec(text);
  if (!offset) return null;
  const each = { h: 3600, m: 60, s: 1, ms: 0.001, f: 1 / frameRate, t: 1 / tickRate };
  return Math.round(Number(offset[1]) * each[offset[2] as keyof typeof each] * 1e6);
};

/** Most elements within one another: no captions have so many. */
const DEEPEST = 50;

interface Open {
  readonly name: string;
  /** From when times in it count. */
  readonly startUs: Us;
  readonly endUs: Us;
}

/**
 * Reads a TTML document: its paragraphs (`p`) with `begin`, `end` and `dur`, by themselves or within `body`, `div` and `span`, and
 * line breaks (`br`). Styles, regions, sequences (`timeContainer="seq"`) and pictures are passed over.
 *
 * @throws Error where it is no well-formed XML, has a document type (and with it entities), or is nested too deep
 */
export const readTtml = (text: string): { cues: ReadCue[]; language: string | null } => {
  const parser = new SaxesParser({ xmlns: false });
  const local = (name: string) => name.replace(/^.*:/, '');
  const open: Open[] = [];
  const cues: ReadCue[] = [];
  let clock: Clock = { frameRate: 30, tickRate: 1 };
  let language: string | null = null;
  let words: string | null = null;
  /** Words of a `p` that stand in a `span` with times of its own. */
  let spanned = false;
  const say = (startUs: Us, endUs: Us) => {
    const plain = tidied(words ?? '');
    if (plain !== '' && Number.isFinite(endUs)) cues.push({ startUs, endUs, text: plain });
    words = '';
  };
  parser.on('doctype', () => {
    throw new Error('a document type is not allowed');
  });
  parser.on('error', (error) => {
    throw error;
  });
  parser.on('opentag', ({ name, attributes }) => {
    if (open.length >= DEEPEST) throw new Error('nested too deep');
    const element = local(name);
    const of = (wanted: string) => {
      const found = Object.entries(attributes).find(([key]) => local(key) === wanted);
      return found ? String(found[1]) : undefined;
    };
    if (element === 'tt') {
      language = of('lang') ?? null;
      const frameRate = Number(of('frameRate') ?? 30) || 30;
      const [up, down] = (of('frameRateMultiplier') ?? '1 1').split(/[ :]/).map(Number);
      const real = frameRate * ((up || 1) / (down || 1));
      clock = { frameRate: real, tickRate: Number(of('tickRate') ?? 0) || real };
    }
    const outer = open.at(-1) ?? { startUs: 0, endUs: Number.POSITIVE_INFINITY };
    const timed = ['body', 'div', 'p', 'span'].includes(element);
    const time = (wanted: string) => {
      const written = timed ? of(wanted) : undefined;
      return written === undefined ? null : readTtmlTime(written.trim(), clock);
    };
    const [begin, end, dur] = [time('begin'), time('end'), time('dur')];
    const startUs = outer.startUs + (begin ?? 0);
    const ends = [
      outer.endUs,
      ...(end !== null ? [outer.startUs + end] : []),
      ...(dur !== null ? [startUs + dur] : []),
    ];
    open.push({ name: element, startUs, endUs: Math.min(...ends) });
    if (element === 'p') [words, spanned] = ['', false];
    if (element === 'br' && words !== null) words += '\n';
    if (element === 'span' && words !== null && begin !== null) {
      const paragraph = open.findLast((one) => one.name === 'p');
      // What stood before it belongs to the paragraph's own time, up to here.
      if (paragraph && !spanned) say(paragraph.startUs, startUs);
      spanned = true;
      words = '';
    }
  });
  parser.on('text', (part) => {
    if (words !== null) words += part.replace(/\s+/g, ' ');
  });
  parser.on('closetag', ({ name }) => {
    const element = local(name);
    const closed = open.pop()!;
    if (element === 'span' && spanned && words !== null) say(closed.startUs, closed.endUs);
    if (element !== 'p') return;
    if (!spanned) say(closed.startUs, closed.endUs);
    words = null;
  });
  parser.write(text).close();
  return { cues, language };
};
