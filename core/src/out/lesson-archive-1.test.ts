import { KINDS } from '../edit/kinds';
import { replay } from '../edit/history';
import OLD from '../testing/archive-1.json';
import { ARCHIVE_VERSION, archiveText, readArchiveText } from './lesson-archive';

/**
 * `archive-1.json` was written on 2 December 2026 by the last version that wrote version 1: its document has every kind of edit that
 * there was, four of each, and `decisions` is what that version made of them.
 */
const archive = readArchiveText(JSON.stringify(OLD.document));

/** Decisions that have another name now, and the fields in them that have. */
const NAMED: Readonly<Record<string, string>> = {
  arranged: 'layouts',
  resting: 'defaultLayout',
  changeUs: 'layoutTransitionUs',
  dissolveUs: 'crossFadeUs',
  lines: 'textOverlays',
  cards: 'titleCards',
  leftOut: 'excluded',
  points: 'topics',
  ticks: 'topicsDone',
  silenced: 'muted',
  underVoiceDb: 'duckingDb',
  cleaned: 'noiseReduction',
  soundLevels: 'gains',
  spokenOver: 'voiceOvers',
  spoken: 'language',
  moments: 'interactions',
};
const FIELDS: Readonly<Record<string, string>> = {
  arrangement: 'layout',
  line: 'textOverlay',
  pointId: 'topicId',
  cleaning: 'reduction',
  burned: 'burntIn',
};
const renamed = (value: unknown): unknown => {
  if (Array.isArray(value)) return value.map(renamed);
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(
    Object.entries(value).map(([key, inside]) => [
      // A title card has a `line` of text too, which is still called so.
      key === 'line' && typeof inside === 'string' ? key : (FIELDS[key] ?? key),
      renamed(inside),
    ]),
  );
};

it('an archive of version 1 comes to the decisions that it came to then', () => {
  const { decisions, unknown } = replay(archive.edits);
  const then = Object.fromEntries(
    Object.entries(OLD.decisions).map(([name, value]) => [NAMED[name] ?? name, renamed(value)]),
  );
  expect(unknown).toBe(0);
  expect(decisions).toEqual(then);
});

it('every kind of edit is in it', () => {
  const kinds = new Set(archive.edits.map(({ edit }) => edit.do as string));
  expect(
    KINDS.map(({ schema }) => schema.shape.do.value).filter((kind) => !kinds.has(kind)),
  ).toEqual([]);
});

it('takes and tracks are as they were, and it is written again as the present version', () => {
  expect(archive.takes).toEqual(OLD.document.takes);
  expect(archive.version).toBe(ARCHIVE_VERSION);
  expect(readArchiveText(archiveText(archive))).toEqual(archive);
});

it.each([
  { edits: 4 },
  { edits: [null] },
  { edits: [{ id: 'entry-1', by: 'teacher', edit: 'cut' }] },
  { edits: [{ id: 'entry-1', by: 'teacher', edit: { do: 'toString' } }] },
  { edits: [{ id: 'entry-1', by: 'teacher', edit: { do: 'arrange', takeId: 'take-one' } }] },
])('a damaged one is refused: %j', (damage) => {
  expect(() => readArchiveText(JSON.stringify({ ...OLD.document, ...damage }))).toThrow(
    expect.objectContaining({ code: 'archive-unreadable' }),
  );
});
