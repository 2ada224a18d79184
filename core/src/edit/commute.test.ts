import * as fc from 'fast-check';
import { DEFAULT_LAYOUT } from '../lesson/layout';
import { PLAIN_GROUND } from '../lesson/frame';
import { FIRST_WATERMARK } from '../lesson/watermark';
import { rankAt } from '../lesson/placement';
import { inOrder } from '../plan/topic';
import { applyEdit } from './apply-edit';
import { conflictWith } from './conflict';
import { NEW_DECISIONS, type Decisions } from './decisions';
import { editSchema, isEdit, kindOfEdit, type Act, type Edit } from './edit';
import type { Entry } from './entry';
import { replay } from './history';
import { placedIn } from '../lesson/lesson';

const conflict = (a: Act, b: Act): boolean => conflictWith([a])(b);

/** Few takes, topics and times, so that two edits often meet. */
const TAKES = ['take-one', 'take-two'];
const takeId = fc.constantFrom(...TAKES);
const placementId = fc.constantFrom('place-one', 'place-two', 'place-three');
const RANKS = ['a0', 'a1', 'a2', 'a0V'];
const topicId = fc.constantFrom('topic-one', 'topic-two');
const strokeId = fc.constantFrom('stroke-one', 'stroke-two');
const atUs = fc.integer({ min: 0, max: 9 }).map((step) => step * 100);
const ends = fc
  .tuple(atUs, fc.integer({ min: 1, max: 5 }))
  .map(([startUs, steps]) => ({ startUs, endUs: startUs + steps * 100 }));
const stretch = <T extends string>(name: T) =>
  fc.tuple(takeId, ends).map(([id, range]) => ({ do: name, takeId: id, ...range }));
const layout = fc
  .constantFrom('camera' as const, 'side' as const, 'surface' as const)
  .map((kind) => ({ ...DEFAULT_LAYOUT, kind }));
const rank = fc.constantFrom(0, 1, 2);
const about = <T extends string>(name: T) => fc.record({ do: fc.constant(name), topicId });
const flub = <T extends string>(name: T) => fc.record({ do: fc.constant(name), takeId, atUs });

const pointerLook = fc.record({
  mark: fc.constantFrom('none' as const, 'halo' as const),
  size: fc.constantFrom(0.05, 0.1),
  colour: fc.constant('amber' as const),
  rings: fc.boolean(),
  goesAfterUs: fc.constant(0),
  clicks: fc.constantFrom(0, 0.5),
  holds: fc.boolean(),
});

/** Some edit of each kind. A kind that is missing here does not compile. */
const OF_KIND: { [Name in Edit['do']]: fc.Arbitrary<Extract<Edit, { do: Name }>> } = {
  plan: fc.record({
    do: fc.constant('plan' as const),
    set: fc.oneof(
      fc.record({ title: fc.constantFrom('a', 'b') }),
      fc.record({ unit: fc.constantFrom('1', '2'), title: fc.constantFrom('a', 'b') }),
    ),
  }),
  place: fc.record({
    do: fc.constant('place' as const),
    placement: fc.record({ id: placementId, takeId, rank: fc.constantFrom(...RANKS) }),
    arrives: fc.boolean(),
  }),
  'exclude-take': fc.record({ do: fc.constant('exclude-take' as const), placementId }),
  'include-take': fc.record({ do: fc.constant('include-take' as const), placementId }),
  trim: fc
    .tuple(placementId, ends)
    .map(([id, range]) => ({ do: 'trim' as const, placementId: id, ...range })),
  cut: stretch('cut' as const),
  restore: stretch('restore' as const),
  'set-layout': fc
    .tuple(stretch('set-layout' as const), layout)
    .map(([edit, how]) => ({ ...edit, layout: how })),
  'set-default-layout': layout.map((how) => ({ do: 'set-default-layout' as const, layout: how })),
  'set-cross-fade': fc.record({
    do: fc.constant('set-cross-fade' as const),
    crossFadeUs: fc.constantFrom(0, 400),
  }),
  'set-layout-transition': fc.record({
    do: fc.constant('set-layout-transition' as const),
    layoutTransitionUs: fc.constantFrom(0, 500),
  }),
  'set-frame-shape': fc.record({
    do: fc.constant('set-frame-shape' as const),
    shape: fc.constantFrom('16:9' as const, '1:1' as const),
  }),
  'set-background': fc.constantFrom(0, 0.05).map((margin) => ({
    do: 'set-background' as const,
    background: { ground: PLAIN_GROUND, margin, rounding: 0 },
  })),
  'set-topic': fc.record({
    do: fc.constant('set-topic' as const),
    topic: fc.record({
      id: topicId,
      text: fc.constantFrom('tide', 'chart'),
      show: fc.constant(''),
      words: fc.constant(''),
      rank,
    }),
  }),
  'move-topic': fc
    .tuple(about('move-topic' as const), rank)
    .map(([edit, to]) => ({ ...edit, rank: to })),
  'remove-topic': about('remove-topic' as const),
  'mark-topic-done': fc
    .tuple(about('mark-topic-done' as const), takeId, atUs)
    .map(([edit, id, at]) => ({ ...edit, takeId: id, atUs: at })),
  'mark-topic-open': about('mark-topic-open' as const),
  'mark-flub': flub('mark-flub' as const),
  'unmark-flub': flub('unmark-flub' as const),
  crop: fc.record({
    do: fc.constant('crop' as const),
    takeId,
    crop: fc.constantFrom(null, { x: 0, y: 0, width: 0.5, height: 1 }),
  }),
  'show-camera': fc.tuple(takeId, fc.constantFrom(null, 1, 2)).map(([id, near]) => ({
    ...{ do: 'show-camera' as const, takeId: id },
    look: near && { x: 0.5, y: 0.4, near, mirrored: near === 2 },
  })),
  'set-close-up': fc
    .tuple(stretch('set-close-up' as const), fc.constantFrom(null, 0.25, 0.5))
    .map(([edit, width]) => ({
      ...edit,
      closeUp: width && {
        part: { x: 0, y: 0, width, height: 0.5 },
        pace: 'quick' as const,
      },
    })),
  'set-cutaway': fc
    .tuple(stretch('set-cutaway' as const), fc.constantFrom(null, 0, 1, 'footage' as const))
    .map(([edit, page]) => ({
      ...edit,
      of:
        page === null
          ? null
          : page === 'footage'
            ? { takeId: 'take-other', fromUs: 200, sinceUs: edit.startUs }
            : { content: 'a'.repeat(64), page, aspect: 1.5 },
    })),
  'write-cues': fc
    .tuple(
      takeId,
      ends,
      fc.constantFrom('en', 'cy'),
      fc.uniqueArray(fc.tuple(fc.constantFrom('cue-one', 'cue-two', 'cue-three'), fc.boolean()), {
        minLength: 1,
        selector: ([id]) => id,
      }),
      fc.constantFrom('ebb', 'the flood'),
    )
    .map(([id, range, language, named, text]) => ({
      do: 'write-cues' as const,
      language,
      cues: named.flatMap(([cueId, there]) =>
        there
          ? [
              {
                ...{ id: cueId, takeId: id, ...range, text, words: null, draft: false },
                timed: 'by-hand' as const,
              },
            ]
          : [],
      ),
      gone: named.flatMap(([cueId, there]) => (there ? [] : [cueId])),
    })),
  'show-captions': fc.constantFrom('bottom' as const, 'top' as const).map((place) => ({
    do: 'show-captions' as const,
    look: { burntIn: true, place, size: 0.05, ground: 'band' as const },
  })),
  'set-audio-description': fc
    .tuple(
      fc.constantFrom('seen-one', 'seen-two'),
      takeId,
      atUs,
      fc.constantFrom(null, 'A tide table.', 'A clock face.'),
    )
    .map(([id, take, at, text]) => ({
      do: 'set-audio-description' as const,
      id,
      description: text === null ? null : { id, takeId: take, atUs: at, text },
    })),
  'set-interaction': fc
    .tuple(
      fc.constantFrom('interaction-one', 'interaction-two'),
      takeId,
      atUs,
      fc.constantFrom(null, 'note' as const, 'pause' as const),
    )
    .map(([id, take, at, is]) => ({
      do: 'set-interaction' as const,
      id,
      interaction: is && { id, takeId: take, atUs: at, text: 'Read it off.', does: { is } },
    })),
  'set-cover': fc
    .tuple(fc.constantFrom(null, 0, 2_000_000), fc.boolean())
    .map(([atUs, titled]) => ({
      do: 'set-cover' as const,
      cover: { of: atUs === null ? null : { takeId: 'take-one', atUs }, titled },
    })),
  'set-licence': fc.constantFrom(null, 'by' as const, 'cc0' as const).map((is) => ({
    do: 'set-licence' as const,
    licence: is && { is },
  })),
  'set-language': fc.record({
    do: fc.constant('set-language' as const),
    language: fc.constantFrom('en', 'cy'),
  }),
  'set-text-overlay': fc
    .tuple(stretch('set-text-overlay' as const), fc.constantFrom(null, 'ebb', 'flood'))
    .map(([edit, text]) => ({
      ...edit,
      textOverlay: text ? { text, place: 'top' as const } : null,
    })),
  'set-title-card': fc
    .tuple(fc.constantFrom('opening' as const, 'closing' as const), fc.constantFrom(null, 1, 2))
    .map(([place, seconds]) => ({
      ...{ do: 'set-title-card' as const, place },
      card: seconds && { heading: null, line: 'evening', lastsUs: seconds * 1_000_000 },
    })),
  'set-speed': fc
    .tuple(stretch('set-speed' as const), fc.constantFrom(null, 50, 400))
    .map(([edit, speed]) => ({ ...edit, speed })),
  'set-ducking': fc.record({
    do: fc.constant('set-ducking' as const),
    db: fc.constantFrom(0, 6, 20),
  }),
  'reduce-noise': fc.record({
    do: fc.constant('reduce-noise' as const),
    takeId,
    reduction: fc.constantFrom(null, 'gently' as const, 'firmly' as const),
  }),
  'set-gain': fc
    .tuple(
      stretch('set-gain' as const),
      fc.constantFrom('voice' as const, 'computer-sound' as const),
      fc.constantFrom(null, -60, -6, 3),
    )
    .map(([edit, of, db]) => ({ ...edit, of, db })),
  'set-voice-over': fc
    .tuple(stretch('set-voice-over' as const), fc.boolean())
    .map(([edit, there]) => ({
      ...edit,
      by: there ? { takeId: 'take-two', fromUs: 0, sinceUs: edit.startUs } : null,
    })),
  mute: fc
    .tuple(stretch('mute' as const), fc.boolean())
    .map(([edit, silent]) => ({ ...edit, silent })),
  'set-levelling': fc.record({
    do: fc.constant('set-levelling' as const),
    takeId,
    levelled: fc.boolean(),
  }),
  'set-watermark': fc
    .tuple(
      fc.constantFrom(null, 0.1, 0.2),
      fc.constantFrom({ content: 'a'.repeat(64), page: 0, aspect: 1 }, { text: 'Lantern Quay' }),
    )
    .map(([size, of]) => ({
      do: 'set-watermark' as const,
      watermark: size && { ...FIRST_WATERMARK, of, size },
    })),
  'add-ink': fc.record({
    do: fc.constant('add-ink' as const),
    takeId,
    stroke: fc.record({
      id: strokeId,
      page: fc.constantFrom(null, 'page-one'),
      pen: fc.constant({ tool: 'pen', colour: 'red', width: 0.01, stays: 'wiped' } as const),
      text: fc.constant(''),
      atUs,
      samples: fc.constant([[0, 0.1, 0.2, 0.5]] as [number, number, number, number][]),
    }),
  }),
  'show-pointer': fc.record({ do: fc.constant('show-pointer' as const), look: pointerLook }),
  'show-screen-pointer': fc.record({
    do: fc.constant('show-screen-pointer' as const),
    look: pointerLook,
  }),
  'change-ink': fc.record({
    do: fc.constant('change-ink' as const),
    takeId,
    strokes: fc.uniqueArray(strokeId, { minLength: 1 }),
    change: fc.oneof(
      fc.record({ colour: fc.constantFrom('red' as const, 'blue' as const) }),
      fc.record({ x: fc.constantFrom(0, 0.5), y: fc.constantFrom(0, 0.5) }),
      fc.record({ gone: fc.boolean(), laterUs: fc.constantFrom(-100, 200) }),
    ),
  }),
};

const anyEdit: fc.Arbitrary<Edit> = fc.oneof(...(Object.values(OF_KIND) as fc.Arbitrary<Edit>[]));

/** Decisions as they matter: cut by cut and moment by moment, whatever the order of their lists. */
const meaning = (decisions: Decisions) => {
  const interactions = TAKES.flatMap((id) =>
    Array.from({ length: 20 }, (_, step) => {
      const at = step * 100 + 50;
      const here = (one: { takeId: string; startUs: number; endUs: number }) =>
        one.takeId === id && one.startUs <= at && at < one.endUs;
      return [
        decisions.cuts.some(here),
        decisions.layouts.find(here)?.layout.kind ?? decisions.defaultLayout.kind,
        decisions.closeUps.find(here)?.closeUp,
        decisions.cutaways.find(here)?.of,
        decisions.textOverlays.find(here)?.textOverlay,
        decisions.muted.some(here),
      ];
    }),
  );
  const { plan, frame, layoutTransitionUs } = decisions;
  const film = placedIn({ decisions });
  // Of these lists the order means nothing.
  const sorted = (list: readonly unknown[]) => list.map((item) => JSON.stringify(item)).sort();
  const topics = inOrder(decisions.topics);
  const { topicsDone, flubs, crops, trims, excluded, placements } = decisions;
  const lists = [topicsDone, flubs, crops, trims, excluded, placements].map(sorted);
  const { addedInk, inkChanges, pointer, screenPointer } = decisions;
  const pointers = { pointer, screenPointer, watermark: decisions.watermark };
  const whole = { plan, film, frame, layoutTransitionUs, addedInk, inkChanges, ...pointers };
  return { ...whole, interactions, topics, lists };
};

const base = TAKES.reduce<Decisions>((decisions, id) => {
  const rank = rankAt(decisions.placements, null);
  const placement = { id: id.replace('take', 'place'), takeId: id, rank };
  return applyEdit(decisions, { do: 'place', placement, arrives: true });
}, NEW_DECISIONS);
const after = (start: Decisions, ...edits: Edit[]) => edits.reduce(applyEdit, start);
const SEED = { seed: 11, numRuns: 2_000 };

it('edits that do not conflict come to the same in either order', () => {
  let free = 0;
  fc.assert(
    fc.property(fc.array(anyEdit, { maxLength: 3 }), anyEdit, anyEdit, (before, a, b) => {
      if (conflict(a, b)) return;
      free++;
      const start = after(base, ...before);
      expect(meaning(after(start, a, b))).toEqual(meaning(after(start, b, a)));
    }),
    SEED,
  );
  expect(free).toBeGreaterThan(1_000);
});

const named =
  (prefix: string) =>
  (edit: Act, index: number): Entry => ({
    id: `${prefix}-${index + 1}`,
    by: 'teacher',
    edit,
  });
/** An edit, or an undo or redo of some that were made before. */
const anyAct = fc.oneof(
  { weight: 3, arbitrary: anyEdit as fc.Arbitrary<Act> },
  {
    weight: 1,
    arbitrary: fc.record({
      do: fc.constantFrom('undo' as const, 'redo' as const),
      entries: fc.uniqueArray(fc.constantFrom('before-1', 'before-2', 'before-3'), {
        minLength: 1,
      }),
    }),
  },
);

it('holds for undo and redo too: two tabs’ acts that don’t conflict come to the same in either order', () => {
  let turned = 0;
  fc.assert(
    fc.property(fc.array(anyAct, { maxLength: 6 }), anyAct, anyAct, (before, a, b) => {
      if (conflict(a, b)) return;
      if (!isEdit(a) || !isEdit(b)) turned++;
      const start = before.map(named('before'));
      const [first, second] = [named('first')(a, 0), named('second')(b, 0)];
      const forth = replay([...start, first, second]);
      const back = replay([...start, second, first]);
      expect(meaning(forth.decisions)).toEqual(meaning(back.decisions));
      expect(replay([...start, first, second, first, second, ...start])).toEqual(forth);
    }),
    SEED,
  );
  expect(turned).toBeGreaterThan(400);
});

it('says the same whichever of the two came first, and no edit conflicts with itself', () =>
  fc.assert(
    fc.property(anyEdit, anyEdit, (a, b) => {
      expect(conflict(a, b)).toBe(conflict(b, a));
      expect(conflict(a, { ...a })).toBe(false);
    }),
    SEED,
  ));

it('every kind passes its own border, changes its own slice alone, and has a name in words', () =>
  fc.assert(
    fc.property(anyEdit, (edit) => {
      expect(editSchema.parse(edit)).toEqual(edit);
      const { slice, inWords, touches } = kindOfEdit(edit);
      const done = after(base, edit);
      const changed = (Object.keys(done) as (keyof Decisions)[]).filter(
        (name) => done[name] !== base[name],
      );
      expect(changed.filter((name) => name !== slice.name)).toEqual([]);
      expect(touches(edit).length).toBeGreaterThan(0);
      expect(inWords(edit)).toMatch(/^[a-z].*[^.]$/);
    }),
    SEED,
  ));
