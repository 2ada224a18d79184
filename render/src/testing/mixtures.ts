import { PLAIN_GROUND } from '@under-chalk/core/lesson/frame';
import { FIRST_CAPTION_LOOK } from '@under-chalk/core/words/caption-look';
import { FIRST_WATERMARK } from '@under-chalk/core/lesson/watermark';
import type { Decisions } from '@under-chalk/core/edit/decisions';
import { FIRST_CARD } from '@under-chalk/core/lesson/title-card';
import { takeOfLength } from '@under-chalk/core/testing/lessons';
import * as fc from 'fast-check';

const s = (seconds: number) => Math.round(seconds * 1_000_000);

/** Takes of a lesson that everything is decided about. */
export const takes = [
  takeOfLength('take-one', s(14)),
  takeOfLength('take-two', s(9), ['camera', 'voice']),
  takeOfLength('take-three', s(6), ['voice']),
];
const tenths = fc.integer({ min: 0, max: 140 }).map((tenth) => s(tenth / 10));
const stretch = fc
  .tuple(fc.constantFrom('take-one', 'take-two', 'take-three'), tenths, tenths)
  .map(([takeId, a, b]) => ({ takeId, startUs: Math.min(a, b), endUs: Math.max(a, b) + s(0.1) }));
/** Stretches of a timeline: in order, none over another. */
const timeline = fc.array(stretch, { maxLength: 3 }).map((all) =>
  all
    .sort((a, b) => (a.takeId === b.takeId ? a.startUs - b.startUs : a.takeId < b.takeId ? -1 : 1))
    .filter((one, index, list) => {
      const before = list[index - 1];
      return before?.takeId !== one.takeId || before.endUs <= one.startUs;
    }),
);
const pageOf = (page: number) => ({ content: 'a'.repeat(64), page, aspect: 1.5 });
const layout = fc.record({
  kind: fc.constantFrom('surface' as const, 'inset' as const, 'side' as const, 'camera' as const),
  inset: fc.record({
    placeX: fc.constantFrom(0, 1),
    placeY: fc.constant(1),
    size: fc.constantFrom(0.2, 0.28),
    shape: fc.constantFrom('rounded' as const, 'circle' as const),
    edge: fc.constantFrom(undefined, 'shadow' as const, 'none' as const),
  }),
});
/** Anything that can be decided about how a film of those takes looks and sounds. */
export const decisions: fc.Arbitrary<Partial<Decisions>> = fc.record({
  plan: fc
    .constantFrom('Tides', 'Streams')
    .map((title) => ({ title, description: '', className: '', unit: '', destinationId: 'free' })),
  frame: fc.record({
    shape: fc.constantFrom('16:9' as const, '1:1' as const),
    ground: fc.constantFrom(
      PLAIN_GROUND,
      { is: 'gradient' as const, from: '#000000', to: '#ffffff' },
      { is: 'page' as const, of: pageOf(1) },
    ),
    margin: fc.constantFrom(0, 0.05),
    rounding: fc.constantFrom(0, 0.04),
  }),
  closeUps: timeline.map((all) =>
    all.map((one) => ({
      ...one,
      closeUp: {
        part: { x: 0.25, y: 0.25, width: 0.5, height: 0.5 },
        pace: one.startUs % 200_000 === 0 ? ('quick' as const) : ('unhurried' as const),
      },
    })),
  ),
  cutaways: timeline.map((all) =>
    all.slice(0, 1).map((one) => ({
      ...one,
      of: [pageOf(2), pageOf(3), { takeId: 'take-one', fromUs: 300_000, sinceUs: one.startUs }][
        Math.round(one.startUs / 1e5) % 3
      ]!,
    })),
  ),
  lines: timeline.map((all) =>
    all
      .slice(0, 1)
      .map((one) => ({ ...one, line: { text: `${one.startUs % 3}`, place: 'top' as const } })),
  ),
  captionLook: fc.constantFrom(
    FIRST_CAPTION_LOOK,
    { ...FIRST_CAPTION_LOOK, burntIn: true },
    { burntIn: true, place: 'top' as const, size: 0.09, ground: 'none' as const },
  ),
  cues: timeline.map((all) =>
    all.map((one, at) => ({
      language: 'en',
      cue: {
        ...{ ...one, id: `cue-${at}-mixed`, text: at % 2 ? 'Two parts of twelve' : 'The ebb.' },
        ...{ words: null, timed: 'by-hand' as const, draft: false },
      },
    })),
  ),
  cards: fc.record({
    opening: fc.constantFrom(null, FIRST_CARD, { ...FIRST_CARD, heading: 'Tides' }),
    closing: fc.constantFrom(null, { ...FIRST_CARD, lastsUs: s(2) }),
  }),
  speeds: timeline.map((all) =>
    all.map((one) => ({ ...one, speed: [50, 150, 400][Math.round(one.startUs / 1e5) % 3]! })),
  ),
  watermark: fc.constantFrom(
    null,
    { ...FIRST_WATERMARK, of: pageOf(4) },
    { ...FIRST_WATERMARK, of: { text: 'Lantern Quay' } },
  ),
  layoutTransitionUs: fc.constantFrom(0, 500_000),
  crossFadeUs: fc.constantFrom(0, 300_000),
  muted: timeline.map((all) => all.slice(0, 2)),
  defaultLayout: layout,
  cuts: timeline,
  layouts: fc
    .tuple(timeline, layout)
    .map(([list, how]) => list.map((one) => ({ ...one, layout: how }))),
  cameraLooks: fc.constantFrom(
    [],
    [{ takeId: 'take-one', look: { x: 0.4, y: 0.3, near: 1.5, mirrored: true } }],
  ),
  crops: fc.constantFrom(
    [],
    [{ takeId: 'take-one', crop: { x: 0, y: 0, width: 0.5, height: 0.5 } }],
  ),
});
