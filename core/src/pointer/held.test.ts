import { inkRecordSchema } from '../ink/record';
import { heldAt, lightPlace } from './held';
import { PointerTrail } from './path';

const pathOf = (...records: unknown[]) => {
  const trail = new PointerTrail();
  records.forEach((record) => trail.add(inkRecordSchema.parse(record)));
  return trail.path();
};
const press = (at: number, x: number, y: number) => ({ at, do: 'press', x, y });
const placeAt = (path: ReturnType<typeof pathOf>, us: number) => heldAt(path, us, 0.1).place;

it('is held by a press, taken elsewhere by another, and let go by one inside of it', () => {
  const path = pathOf(
    press(1_000_000, 0.3, 0.2),
    { at: 1_100_000, do: 'release' },
    { at: 1_200_000, do: 'point', samples: [[0, 0.8, 0.4]] },
    { at: 1_500_000, do: 'away' },
    press(3_000_000, 0.5, 0.2),
    press(5_000_000, 0.55, 0.25),
  );
  expect(placeAt(path, 999_999)).toBeNull();
  // Whatever points elsewhere, and when nothing does.
  for (const us of [1_000_000, 1_400_000, 2_999_999]) {
    expect(placeAt(path, us)).toEqual({ x: 0.3, y: 0.2 });
  }
  expect(placeAt(path, 4_000_000)).toEqual({ x: 0.5, y: 0.2 });
  expect(placeAt(path, 5_000_000)).toBeNull();
  expect(placeAt(path, 9_000_000)).toBeNull();
});

it('is let go when another page is turned to', () => {
  const paper = { ruling: 'plain', shade: 'light' };
  const path = pathOf(press(1_000_000, 0.3, 0.2), {
    ...{ at: 2_000_000, do: 'page', page: 'page-two', paper },
  });
  expect(placeAt(path, 1_999_999)).not.toBeNull();
  expect(placeAt(path, 2_000_000)).toBeNull();
});

it('glides from where it was held to where it goes, and follows exactly afterwards', () => {
  const path = pathOf(press(0, 0.2, 0.2), press(1_000_000, 0.6, 0.2), press(2_000_000, 0.6, 0.25));
  const pointed = { x: 0.62, y: 0.3 };
  const at = (us: number) => lightPlace(heldAt(path, us, 0.1), us, pointed);
  expect(at(0)).toEqual({ x: 0.2, y: 0.2 });
  const steps = [1_000_000, 1_060_000, 1_125_000, 1_190_000, 1_250_000].map((us) => at(us).x);
  expect(steps).toEqual([...steps].sort((a, b) => a - b));
  expect([steps[0], steps[2], steps[4]]).toEqual([0.2, expect.closeTo(0.4), 0.6]);
  expect(at(2_000_000)).toEqual({ x: 0.6, y: 0.2 });
  expect(at(2_250_000)).toEqual(pointed);
});
