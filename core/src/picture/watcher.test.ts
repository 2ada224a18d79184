import { PictureWatcher, WATCHED, WATCHED_BYTES } from './watcher';

const PIXELS = WATCHED.widthPx * WATCHED.heightPx;
const s = (seconds: number) => seconds * 1_000_000;

/** A picture of one colour, with what is drawn over it; YUV. */
const picture = (
  [y, u, v]: readonly [number, number, number],
  draw: (planes: Uint8Array) => void = () => undefined,
): Uint8Array => {
  const planes = new Uint8Array(WATCHED_BYTES);
  planes
    .fill(y, 0, PIXELS)
    .fill(u, PIXELS, 2 * PIXELS)
    .fill(v, 2 * PIXELS);
  draw(planes);
  return planes;
};
const row = (number: number) => number * WATCHED.widthPx;
/** A screen with something on it: a block that is lighter, from some column on. */
const screen = (column: number) =>
  picture([60, 120, 134], (planes) => {
    for (let y = 20; y < 60; y++) planes.fill(200, row(y) + column, row(y) + column + 30);
  });
/** A camera's picture with its noise. */
const face = (seed: number) =>
  picture([90, 118, 140], (planes) => {
    for (let at = 0; at < PIXELS; at++) planes[at] = 90 + ((at * 7919 + seed * 104_729) % 5);
  });

const watched = (isCamera: boolean, pictures: readonly Uint8Array[], most = 10) => {
  const watcher = new PictureWatcher(isCamera);
  pictures.forEach((one, second) => watcher.next(one, s(second)));
  return watcher.finish(s(pictures.length), most);
};
const many = (count: number, of: (second: number) => Uint8Array) =>
  Array.from({ length: count }, (_, second) => of(second));

describe('what isn’t as it was meant', () => {
  it('is nothing of a screen that stands still, nor of a camera with its noise', () => {
    expect(
      watched(
        false,
        many(20, () => screen(10)),
      ).flaws,
    ).toEqual([]);
    expect(watched(true, many(20, face)).flaws).toEqual([]);
  });
  it('is black from two seconds on, whatever specks there are', () => {
    const black = (specks: number) =>
      picture([16, 128, 128], (planes) => planes.fill(200, 0, specks));
    const pictures = [...many(3, face), ...many(4, () => black(10)), ...many(3, face)];
    expect(watched(true, pictures).flaws).toEqual([{ is: 'black', startUs: s(3), endUs: s(7) }]);
    expect(watched(true, [...many(3, face), black(0), ...many(3, face)]).flaws).toEqual([]);
    // A dark room with a lamp in it is no black picture.
    expect(
      watched(
        false,
        many(8, () => black(200)),
      ).flaws,
    ).toEqual([]);
  });
  it('is a camera that stands still for four seconds, and no screen that does', () => {
    const pictures = [...many(3, face), ...many(6, () => face(99)), ...many(3, face)];
    expect(watched(true, pictures).flaws).toEqual([{ is: 'still', startUs: s(3), endUs: s(8) }]);
    expect(watched(true, [...many(3, face), face(99), face(99), ...many(3, face)]).flaws).toEqual(
      [],
    );
  });
  it.each([
    ['grey', [128, 128, 128]],
    ['the green of nothing', [0, 0, 0]],
  ] as const)('is torn where its lower part is %s, until it is mended', (_, [y, u, v]) => {
    const torn = (second: number) => {
      const planes = face(second);
      const from = row(60);
      planes.fill(y, from, PIXELS);
      planes.fill(u, PIXELS + from, 2 * PIXELS).fill(v, 2 * PIXELS + from);
      return planes;
    };
    const pictures = [...many(3, face), ...many(2, torn), ...many(3, face)];
    expect(watched(true, pictures).flaws).toEqual([{ is: 'torn', startUs: s(3), endUs: s(5) }]);
    // What is so all along was drawn so.
    expect(watched(true, many(40, torn)).flaws).toEqual([]);
  });
});

describe('what is shown long enough to be read', () => {
  it('is known again, and told with its stretches; what goes by isn’t', () => {
    const pictures = [
      ...many(5, () => screen(10)),
      ...many(2, () => screen(60)),
      ...many(4, () => screen(110)),
      ...many(3, () => screen(10)),
    ];
    const { looks } = watched(false, pictures);
    expect(looks).toEqual([
      {
        atUs: s(2.5),
        stretches: [
          { startUs: 0, endUs: s(5) },
          { startUs: s(11), endUs: s(14) },
        ],
      },
      { atUs: s(9), stretches: [{ startUs: s(7), endUs: s(11) }] },
    ]);
  });
  it('is what stands longest, where there is too much; and nothing of a camera', () => {
    const pictures = [...many(3, () => screen(10)), ...many(6, () => screen(60))];
    const { looks } = watched(false, pictures, 1);
    expect(looks.map(({ stretches }) => stretches[0]!.startUs)).toEqual([s(3)]);
    expect(watched(true, pictures).looks).toEqual([]);
  });
});
