import { layoutOf } from './layout';

it.each([
  [390, 844, { wide: false, beside: false, low: false, tiny: false }],
  [844, 390, { wide: false, beside: true, low: true, tiny: false }],
  [1280, 800, { wide: true, beside: true, low: false, tiny: false }],
  // 1280×800 and 390×844 at 200 %, and 1280×1024 at 400 %.
  [640, 400, { wide: false, beside: true, low: true, tiny: false }],
  [195, 422, { wide: false, beside: false, low: true, tiny: true }],
  [320, 256, { wide: false, beside: false, low: true, tiny: true }],
])('at %d×%d', (width, height, expected) => {
  expect(layoutOf(width, height)).toMatchObject(expected);
});
