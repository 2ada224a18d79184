import { NEW_FRAME } from '../lesson/frame';
import { filmOf } from '../film/film';
import { DEFAULT_LAYOUT, type LayoutKind, type Inset } from '../lesson/layout';
import { lessonOf, takeOfLength } from '../testing/lessons';
import type { Decisions } from '../edit/decisions';
import { insetAt, insetRect, type Rect } from './geometry';
import { toEvenPx } from './pixels';
import { isPictureLayer } from './layers';
import { readScenes, sceneAt as wholeScene } from './scene';

const s = (seconds: number) => Math.round(seconds * 1_000_000);
const take = takeOfLength('take-one', s(20));
const film = (decisions: Partial<Decisions> = {}) => filmOf(lessonOf([take], decisions));
const defaultLayout = (kind: LayoutKind, inset: Partial<Inset> = {}) => ({
  defaultLayout: { kind, inset: { ...DEFAULT_LAYOUT.inset, ...inset } },
});
/** The pictures of a moment; what else lies in it has tests of its own. */
const sceneAt = (...of: Parameters<typeof wholeScene>) => {
  const scene = wholeScene(...of);
  return scene && { ...scene, layers: scene.layers.filter(isPictureLayer) };
};
const inside = ({ x, y, width, height }: Rect) =>
  x >= -1e-9 && y >= -1e-9 && x + width <= 1 + 1e-9 && y + height <= 1 + 1e-9;

describe('a scene', () => {
  it('lays the camera over the surface, both at the recorded time', () => {
    const scene = sceneAt(film({ cuts: [{ takeId: take.id, startUs: s(2), endUs: s(5) }] }), s(3))!;
    expect(scene.layers.map((layer) => [layer.trackId, layer.takeUs])).toEqual([
      ['take-one-surface', s(6)],
      ['take-one-camera', s(6)],
    ]);
    expect(scene.layers[0]!.to).toEqual({ x: 0, y: 0, width: 1, height: 1 });
    expect(scene.still).toBe(true);
  });
  it('keeps the inset in its corner, clear of the edge and in the shape of the camera', () => {
    const { layers } = sceneAt(
      film(defaultLayout('inset', { placeX: 0, placeY: 0, size: 0.3 })),
      0,
    )!;
    const { to } = layers[1]!;
    expect(to.x * (16 / 9)).toBeCloseTo(to.y);
    expect(to.height).toBeCloseTo(0.3);
    expect((to.width * (16 / 9)) / to.height).toBeCloseTo(4 / 3);
  });
  it('makes a round inset of a square part of the camera', () => {
    const { layers } = sceneAt(film(defaultLayout('inset', { shape: 'circle' })), 0)!;
    expect(layers[1]!.radius).toBe(0.5);
    expect(layers[1]!.from.width).toBeCloseTo(0.75);
    expect(layers[1]!.to.width * (16 / 9)).toBeCloseTo(layers[1]!.to.height);
  });
  it('shows only what the layout has', () => {
    const ids = (kind: LayoutKind) =>
      sceneAt(film(defaultLayout(kind)), 0)!.layers.map((layer) => layer.trackId);
    expect(ids('surface')).toEqual(['take-one-surface']);
    expect(ids('camera')).toEqual(['take-one-camera']);
    expect(ids('side')).toHaveLength(2);
  });
  it('stays inside the frame in every layout, shape of frame and place of the inset', () => {
    for (const kind of ['surface', 'inset', 'side', 'camera'] as const) {
      for (const shape of ['16:9', '4:3', '1:1', '9:16'] as const) {
        for (const size of [0.12, 0.6]) {
          const tried = film({
            ...defaultLayout(kind, { placeX: 1, placeY: 0, size }),
            frame: { ...NEW_FRAME, shape },
          });
          for (const layer of sceneAt(tried, 0)!.layers) {
            expect(inside(layer.to)).toBe(true);
            expect(inside(layer.from)).toBe(true);
          }
        }
      }
    }
  });
  it('does not overlap side by side', () => {
    const [surface, camera] = sceneAt(film(defaultLayout('side')), 0)!.layers;
    expect(surface!.to.x + surface!.to.width).toBeLessThan(camera!.to.x);
  });
  it('shows the title where there is no picture, and nothing outside the film', () => {
    const sound = filmOf(lessonOf([takeOfLength('take-sound', s(3), ['voice'])]));
    expect(wholeScene(sound, 0)!.layers.map(({ kind }) => kind)).toEqual(['ground', 'words']);
    expect(wholeScene(film(), 0)!.layers.map(({ kind }) => kind)).toEqual([
      ...['ground', 'picture', 'picture', 'edge'],
    ]);
    expect(sceneAt(sound, s(3))).toBeNull();
    expect(sceneAt(sound, -1_000)).toBeNull();
  });
});

describe('a soft change', () => {
  const changed = film({
    layouts: [
      {
        takeId: take.id,
        startUs: 0,
        endUs: s(4),
        layout: { ...DEFAULT_LAYOUT, kind: 'camera' },
      },
    ],
  });
  const scenes = readScenes(changed);
  const cameraWidth = (us: number) =>
    scenes.sceneAt(us)!.layers.filter(isPictureLayer).at(-1)!.to.width;

  it('moves steadily from one to the other and then stands still', () => {
    expect(cameraWidth(s(3.9))).toBe(1);
    const widths = [4.0, 4.1, 4.2, 4.3, 4.4].map((at) => cameraWidth(s(at)));
    expect([...widths].sort((a, b) => b - a)).toEqual(widths);
    expect(widths[0]).toBeGreaterThan(0.9);
    expect(scenes.sceneAt(s(4.2))!.still).toBe(false);
    expect(scenes.sceneAt(s(4.6))!.still).toBe(true);
  });
  it('never lets the background shine through a full surface', () => {
    for (let us = s(4); us < s(4.6); us += 33_333) {
      const surface = scenes
        .sceneAt(us)!
        .layers.filter(isPictureLayer)
        .find((x) => x.trackId === 'take-one-surface')!;
      expect(surface.opacity).toBe(1);
    }
  });
  it('is hard when its length is nothing', () => {
    const hard = filmOf({
      ...changed.lesson,
      decisions: { ...changed.lesson.decisions, layoutTransitionUs: 0 },
    });
    expect(sceneAt(hard, s(4))!.still).toBe(true);
  });
});

describe('dragging the inset', () => {
  it('finds the place whose middle is under the finger', () => {
    const inset = { ...DEFAULT_LAYOUT.inset };
    const moved = insetAt(inset, 0.4, 0.6, 4 / 3, 16 / 9);
    const rect = insetRect(moved, 4 / 3, 16 / 9);
    expect(rect.x + rect.width / 2).toBeCloseTo(0.4);
    expect(rect.y + rect.height / 2).toBeCloseTo(0.6);
  });
  it('stops at the margins', () =>
    expect(insetAt(DEFAULT_LAYOUT.inset, 2, -1, 4 / 3, 16 / 9)).toMatchObject({
      placeX: 1,
      placeY: 0,
    }));
});

describe('even pixels', () => {
  it('gives even, non-empty rectangles inside the frame', () => {
    const size = { widthPx: 1280, heightPx: 720 };
    const px = toEvenPx({ x: 0.7213, y: 0.999, width: 0.2787, height: 0.3 }, size);
    for (const value of Object.values(px)) expect(value % 2).toBe(0);
    expect(px.x + px.width).toBeLessThanOrEqual(1280);
    expect(px.y + px.height).toBeLessThanOrEqual(720);
    expect(px.height).toBe(2);
  });
});
