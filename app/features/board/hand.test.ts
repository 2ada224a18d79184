import type { PointerEvent } from 'react';
import { Pinch, pressureOf } from './hand';
import { onPage, zoomedAt } from './page-view';

const finger = (pointerId: number, clientX: number, clientY: number) =>
  ({ pointerId, clientX, clientY }) as PointerEvent;

it('takes two fingers for one that moves the page, and tells how', () => {
  const pinch = new Pinch();
  expect(pinch.down(finger(1, 100, 100))).toBe(false);
  expect(pinch.move(finger(1, 110, 100))).toBeNull();
  expect(pinch.down(finger(2, 210, 100))).toBe(true);
  const moved = pinch.move(finger(2, 310, 100))!;
  expect(moved).toEqual({ from: [160, 100], to: [210, 100], times: 2 });
  pinch.up(finger(1, 110, 100));
  expect(pinch.move(finger(2, 400, 100))).toBeNull();
});

it('keeps the place under the fingers under them', () => {
  const before = { x: 0.2, y: 0.1, zoom: 1.5 };
  const after = zoomedAt(before, 2, [0.4, 0.2], [0.5, 0.3]);
  expect(after.zoom).toBe(3);
  const [was, is] = [onPage(before, [0.4, 0.2]), onPage(after, [0.5, 0.3])];
  expect(is[0]).toBeCloseTo(was[0]);
  expect(is[1]).toBeCloseTo(was[1]);
});

describe('how hard something writes', () => {
  it('is told by a pen, and middling for all else', () => {
    expect(pressureOf({ pointerType: 'pen', pressure: 0.3 })).toBe(0.3);
    expect(pressureOf({ pointerType: 'mouse', pressure: 0.9 })).toBe(0.5);
    expect(pressureOf({ pointerType: 'touch', pressure: 0 })).toBe(0.5);
  });
  it('is more for a pen that is held flat', () => {
    const held = (altitudeAngle: number) =>
      pressureOf({ pointerType: 'pen', pressure: 0.3, altitudeAngle });
    expect(held(Math.PI / 2)).toBe(0.3);
    expect(held(Math.PI / 4)).toBe(0.3);
    expect(held(Math.PI / 8)).toBeCloseTo(0.5);
    expect(held(0)).toBeCloseTo(0.7);
  });
});
