/**
 * Reads version 1 of a lesson archive's document: the same edits, under other names.
 */

/** Kind of edit in version 1 → its kind now, and its fields that are named differently now. */
const RENAMED: Readonly<Record<string, readonly [string, Readonly<Record<string, string>>?]>> = {
  arrange: ['set-layout', { arrangement: 'layout' }],
  rest: ['set-default-layout', { arrangement: 'layout' }],
  soften: ['set-layout-transition', { changeUs: 'layoutTransitionUs' }],
  dissolve: ['set-cross-fade', { dissolveUs: 'crossFadeUs' }],
  'shape-frame': ['set-frame-shape'],
  'dress-frame': ['set-background', { dress: 'background' }],
  'mark-film': ['set-watermark'],
  'put-line': ['set-text-overlay', { line: 'textOverlay' }],
  'put-card': ['set-title-card'],
  'come-closer': ['set-close-up'],
  'cut-away': ['set-cutaway'],
  'leave-out': ['exclude-take'],
  'bring-in': ['include-take'],
  'set-point': ['set-topic', { point: 'topic' }],
  'move-point': ['move-topic', { pointId: 'topicId' }],
  'remove-point': ['remove-topic', { pointId: 'topicId' }],
  'tick-point': ['mark-topic-done', { pointId: 'topicId' }],
  'untick-point': ['mark-topic-open', { pointId: 'topicId' }],
  'level-sound': ['set-levelling'],
  silence: ['mute', { silenced: 'muted' }],
  'lower-under-voice': ['set-ducking', { underVoiceDb: 'duckingDb' }],
  'clean-sound': ['reduce-noise', { cleaning: 'reduction' }],
  'set-level': ['set-gain'],
  'speak-over': ['set-voice-over'],
  speak: ['set-language'],
  describe: ['set-audio-description'],
  'set-moment': ['set-interaction', { moment: 'interaction' }],
  'choose-cover': ['set-cover'],
  'give-licence': ['set-licence'],
};

type Plain = Readonly<Record<string, unknown>>;

const isPlain = (value: unknown): value is Plain =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

const editNow = (edit: unknown): unknown => {
  if (!isPlain(edit) || typeof edit['do'] !== 'string') return edit;
  if (edit['do'] === 'show-captions' && isPlain(edit['look'])) {
    const { burned, ...look } = edit['look'];
    return { ...edit, look: { ...look, burntIn: burned } };
  }
  if (!Object.hasOwn(RENAMED, edit['do'])) return edit;
  const [kind, fields = {}] = RENAMED[edit['do']]!;
  const named = Object.entries(edit).map(([key, value]) => [
    Object.hasOwn(fields, key) ? fields[key] : key,
    value,
  ]);
  return { ...(Object.fromEntries(named) as Plain), do: kind };
};

/**
 * A document of version 1 as one of version 2. It may be anybody's: what it does not understand it leaves as it is, for the schema to
 * refuse.
 */
export const fromVersion1 = (document: unknown): unknown => {
  if (!isPlain(document) || !Array.isArray(document['edits'])) return document;
  const edits = document['edits'].map((entry: unknown) =>
    isPlain(entry) ? { ...entry, edit: editNow(entry['edit']) } : entry,
  );
  return { ...document, version: 2, edits };
};
