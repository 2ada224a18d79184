import { contrast, distance, SEEN_BY } from '../testing/colour';
import { INK_COLOURS, inkColourSchema, PAPER_COLOURS, type Shade } from './pen';

const COLOURS = inkColourSchema.options;

it.each(['light', 'dark'] as Shade[])(
  'colours can be read and told apart by all eyes on %s paper',
  (shade) => {
    const inks = INK_COLOURS[shade];
    for (const [index, name] of COLOURS.entries()) {
      // As for text (WCAG 2.2, 1.4.3): writing is read.
      expect([name, contrast(inks[name], PAPER_COLOURS[shade]) >= 4.5]).toEqual([name, true]);
      for (const other of COLOURS.slice(index + 1)) {
        for (const eyes of Object.keys(SEEN_BY) as (keyof typeof SEEN_BY)[]) {
          const apart = distance(inks[name], inks[other], eyes);
          // Five times what is just noticed.
          expect([name, other, eyes, apart > 10]).toEqual([name, other, eyes, true]);
        }
      }
    }
  },
);

it('is no wonder: red and green of the same lightness are not told apart', () => {
  expect(distance('#b3261e', '#5c6b00', 'deutan')).toBeLessThan(10);
  expect(distance('#b3261e', '#5c6b00', 'usual')).toBeGreaterThan(10);
  expect(contrast('#ffffff', '#000000')).toBeCloseTo(21, 5);
});
