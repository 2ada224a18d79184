import { createCanvas, type Canvas } from '@napi-rs/canvas';
import { filmOf } from '@under-chalk/core/film/film';
import { DEFAULT_LAYOUT } from '@under-chalk/core/lesson/layout';
import { lessonOf, takeOfLength } from '@under-chalk/core/testing/lessons';
import { sceneAt, type Scene } from '@under-chalk/core/scene/scene';
import { toEvenPx } from '@under-chalk/core/scene/pixels';
import { isPictureLayer } from '@under-chalk/core/scene/layers';
import { paintMask } from './layers/picture';
import { paint } from './painter';

const size = { widthPx: 640, heightPx: 360 };
const plain = (colour: string, widthPx: number, heightPx: number) => {
  const canvas = createCanvas(widthPx, heightPx);
  const context = canvas.getContext('2d');
  context.fillStyle = colour;
  context.fillRect(0, 0, widthPx, heightPx);
  return { image: canvas, widthPx, heightPx };
};
const pictures: Record<string, ReturnType<typeof plain>> = {
  'take-one-surface': plain('#00ff00', 1280, 720),
  'take-one-camera': plain('#ff0000', 640, 480),
};
const painted = (scene: Scene) => {
  const canvas = createCanvas(size.widthPx, size.heightPx);
  paint<Canvas>(canvas.getContext('2d') as never, size, scene, {
    pictureOf: (layer) => pictures[layer.trackId],
  });
  return (x: number, y: number) =>
    [...canvas.getContext('2d').getImageData(x, y, 1, 1).data.slice(0, 3)] as number[];
};
const cameraIn = (scene: Scene) => scene.layers.filter(isPictureLayer)[1]!;
const take = takeOfLength('take-one', 10_000_000);
const GREEN = [0, 255, 0];
const RED = [255, 0, 0];

it('lays the inset where the scene says, with round corners', () => {
  const scene = sceneAt(
    filmOf(
      lessonOf([take], {
        defaultLayout: {
          kind: 'inset',
          inset: { ...DEFAULT_LAYOUT.inset, placeX: 0, placeY: 0, size: 0.4 },
        },
      }),
    ),
    0,
  )!;
  const at = painted(scene);
  const box = toEvenPx(cameraIn(scene).to, size);
  expect(at(box.x + box.width / 2, box.y + box.height / 2)).toEqual(RED);
  expect(at(box.x + box.width + 8, box.y + box.height / 2)).toEqual(GREEN);
  expect(at(box.x + 1, box.y + 1)).toEqual(GREEN);
  expect(at(600, 340)).toEqual(GREEN);
});

it('fades a picture by its opacity', () => {
  const scene = sceneAt(filmOf(lessonOf([take])), 0)!;
  const half = {
    ...scene,
    layers: scene.layers.map((layer, index) => (index >= 2 ? { ...layer, opacity: 0.5 } : layer)),
  };
  const box = toEvenPx(cameraIn(scene).to, size);
  const [red, green] = painted(half)(box.x + box.width / 2, box.y + box.height / 2);
  expect(red).toBeGreaterThan(110);
  expect(green).toBeGreaterThan(110);
});

it('leaves out a layer whose picture is missing, and shows the background', () => {
  const scene = sceneAt(
    filmOf(
      lessonOf([
        {
          ...take,
          id: 'take-two',
          tracks: take.tracks.map((track) => ({ ...track, id: `other-${track.kind}` })),
        },
      ]),
    ),
    0,
  )!;
  expect(painted(scene)(320, 180)).toEqual([0x20, 0x29, 0x2f]);
});

it('writes the title of a film without pictures', () => {
  const sound = lessonOf([takeOfLength('take-sound', 3_000_000, ['voice'])]);
  const titled = {
    ...sound,
    decisions: { ...sound.decisions, plan: { ...sound.decisions.plan, title: 'Before you plot' } },
  };
  const at = painted(sceneAt(filmOf(titled), 0)!);
  const row = Array.from({ length: 640 }, (_, x) => at(x, 180)[0]!);
  expect(Math.max(...row)).toBeGreaterThan(200);
});

it('masks with the same outline', () => {
  const scene = sceneAt(filmOf(lessonOf([take])), 0)!;
  const layer = { ...cameraIn(scene), radius: 0.5 };
  const canvas = createCanvas(100, 100);
  paintMask(canvas.getContext('2d') as never, layer, { x: 40, y: 40, width: 100, height: 100 });
  const at = (x: number, y: number) => canvas.getContext('2d').getImageData(x, y, 1, 1).data[0];
  expect(at(50, 50)).toBe(255);
  expect(at(4, 4)).toBe(0);
});
