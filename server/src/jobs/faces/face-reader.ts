import type { EyeOutline, FaceSeen, Place } from '@under-chalk/core/checks/eyes';
import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { basename, dirname, join } from 'node:path';
import * as z from 'zod';
import type { FacePicture } from './face-finder';

const near = createRequire(import.meta.url);
/** Its package names none of its forms for WebAssembly in Node.js in a way that Node.js follows. */
const PACKAGE = dirname(dirname(near.resolve('@vladmandic/human')));
const PROGRAM = join(PACKAGE, 'dist', 'human.node-wasm.js');
const MODELS = join(PACKAGE, 'models');
const WASM = dirname(near.resolve('@tensorflow/tfjs-backend-wasm/dist/tf-backend-wasm.node.js'));

/** Less sure than this, 0 to 1, it is no face: eyes that are shut are much of what makes it doubtful. */
const LEAST_SURE = 0.3;
const MOST_FACES = 4;

/** Faces alone, and no more of them than where they and their eyes are: not who somebody is, how old, or in what mood. */
const SETTINGS = {
  ...{ backend: 'wasm', wasmPath: `${WASM}/`, modelBasePath: 'models://here/' },
  ...{ debug: false, cacheSensitivity: 0, filter: { enabled: false } },
  face: {
    enabled: true,
    detector: { maxDetected: MOST_FACES, minConfidence: LEAST_SURE, rotation: false },
    ...{ mesh: { enabled: true }, iris: { enabled: true }, attention: { enabled: false } },
    ...{ emotion: { enabled: false }, description: { enabled: false } },
    ...{ antispoof: { enabled: false }, liveness: { enabled: false } },
  },
  ...{ body: { enabled: false }, hand: { enabled: false }, gesture: { enabled: false } },
  ...{ object: { enabled: false }, segmentation: { enabled: false } },
};

/** Points of the mesh about each eye, in the order of an outline. */
const EYES = [
  [33, 160, 158, 133, 153, 144],
  [362, 385, 387, 263, 373, 380],
] as const;

const foundSchema = z.object({
  face: z.array(
    z.object({
      faceScore: z.number(),
      box: z.tuple([z.number(), z.number(), z.number(), z.number()]),
      mesh: z.array(z.tuple([z.number(), z.number()]).rest(z.number())),
    }),
  ),
  error: z.union([z.string(), z.null()]).optional(),
});

/** What is used of the package. */
interface Recogniser {
  readonly tf: {
    tensor(values: Float32Array, shape: readonly number[], type: string): unknown;
    dispose(tensor: unknown): void;
  };
  load(): Promise<void>;
  detect(tensor: unknown): Promise<unknown>;
}

/** Red, green and blue of each px, as the models take them. */
const coloursOf = (pixels: Uint8Array): Float32Array => {
  const colours = new Float32Array((pixels.length / 4) * 3);
  for (let at = 0, to = 0; at < pixels.length; at += 4) {
    colours[to++] = pixels[at]!;
    colours[to++] = pixels[at + 1]!;
    colours[to++] = pixels[at + 2]!;
  }
  return colours;
};

/**
 * Opens what finds faces. In a thread of its own: it asks for its models by `fetch`, which is given files of its package in this
 * thread, and nothing else.
 *
 * @throws Error where it can't begin
 */
export const openFaceReader = async (): Promise<
  (picture: FacePicture) => Promise<readonly FaceSeen[]>
> => {
  globalThis.fetch = async (asked) => {
    const name = basename(new URL(String(asked instanceof Request ? asked.url : asked)).pathname);
    const type = name.endsWith('.json') ? 'application/json' : 'application/octet-stream';
    return new Response(await readFile(join(MODELS, name)), { headers: { 'content-type': type } });
  };
  const { Human } = near(PROGRAM) as { Human: new (settings: object) => Recogniser };
  const recogniser = new Human(SETTINGS);
  await recogniser.load();
  return async ({ pixels, widthPx, heightPx }) => {
    const { tf } = recogniser;
    const tensor = tf.tensor(coloursOf(pixels), [1, heightPx, widthPx, 3], 'float32');
    try {
      const { face, error } = foundSchema.parse(await recogniser.detect(tensor));
      if (error) throw new Error(error);
      return face
        .filter(({ faceScore, mesh }) => faceScore >= LEAST_SURE && mesh.length > 400)
        .map(({ box, mesh }) => {
          const outline = (points: (typeof EYES)[number]) =>
            points.map((point): Place => [
              mesh[point]![0],
              mesh[point]![1],
            ]) as unknown as EyeOutline;
          return { high: box[3] / heightPx, eyes: [outline(EYES[0]), outline(EYES[1])] };
        });
    } finally {
      tf.dispose(tensor);
    }
  };
};
