import { createCanvas } from '@napi-rs/canvas';
import type { SizePx } from '@under-chalk/core/destination/picture-size';
import { isPictureLayer, standStill, type Layer } from '@under-chalk/core/scene/layers';
import type { Scene } from '@under-chalk/core/scene/scene';
import { NO_INK } from '@under-chalk/core/ink/changed-track';
import { boundsOf, NO_PAGES, paintLayers } from '@under-chalk/paint';
import type { Laid } from './laid';

/** What can move by itself over what stands still. */
const movesAlone = ({ kind }: Layer): boolean => kind === 'pointer' || kind === 'clock';

/** A scene as it is without what moves by itself in it. */
const bare = (scene: Scene): Scene => ({
  ...scene,
  layers: scene.layers.filter((layer) => !movesAlone(layer)),
});

/**
 * What points, or ticks, in a chunk in which nothing else moves but its pictures: all of it lies above the same layer.
 * Where ink lies there, see `written`.
 *
 * @param scenes of its frames, in order
 * @returns null where something else moves, or what points lies elsewhere
 */
export const pointedIn = (scenes: readonly Scene[], size: SizePx): Laid | null => {
  const [first, ...others] = scenes.map(bare);
  if (!first?.still) return null;
  if (first.layers.some((layer) => isPictureLayer(layer) && layer.opacity < 1)) return null;
  let before = first;
  for (const scene of others) {
    if (!scene.still || !standStill(before.layers, scene.layers)) return null;
    before = scene;
  }
  // How many layers lie under what points: the same in all of them.
  const under = new Set(
    scenes.flatMap(({ layers }) => {
      const at = layers.findIndex(movesAlone);
      if (at < 0) return [];
      const count = layers.filter(movesAlone).length;
      return layers.slice(at, at + count).every(movesAlone) ? [at] : [-1];
    }),
  );
  const [count] = under;
  const below = count === undefined ? undefined : first.layers[count - 1];
  if (under.size !== 1 || !below) return null;
  const pointers = scenes.map(({ layers }) => layers.filter(movesAlone));
  const box = boundsOf(pointers.flat(), { size, still: true });
  return {
    scene: first,
    above: below,
    box,
    isClear: true,
    *parts() {
      const canvas = createCanvas(box.width, box.height);
      const context = canvas.getContext('2d');
      context.translate(-box.x, -box.y);
      let painted = '';
      for (const layers of pointers) {
        const name = JSON.stringify(layers);
        if (name !== painted) {
          context.clearRect(box.x, box.y, box.width, box.height);
          const shown = { inkOf: NO_INK, pageOf: NO_PAGES };
          paintLayers(context as never, layers, { size, still: true }, shown);
        }
        painted = name;
        // Not as the canvas holds it: there colours are multiplied by how clear they are.
        yield Buffer.from(context.getImageData(0, 0, box.width, box.height).data.buffer);
      }
    },
  };
};
