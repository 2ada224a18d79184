import { likelyBits } from './stream-reader';

const came = (transferSize: number, ms: number) => ({
  ...{ transferSize, responseStart: 100, responseEnd: 100 + ms },
});

const said = (downlink: number | undefined) =>
  Object.defineProperty(navigator, 'connection', {
    ...{ value: downlink === undefined ? undefined : { downlink }, configurable: true },
  });

afterEach(() => said(undefined));

test('a line is as fast as the best of what came over it', () => {
  // 125 kB in a second; what came beside it had a share only.
  expect(likelyBits([came(125_000, 1_000), came(25_000, 1_000)])).toBe(1_000_000);
});

test('what is small, at once, or held already says nothing of a line', () => {
  const nothing = likelyBits([]);
  expect(nothing).toBeGreaterThanOrEqual(2_000_000);
  expect(likelyBits([came(900, 400), came(0, 1), came(200_000, 3)])).toBe(nothing);
});

test('a browser that knows its line to be slower is believed, and one that says more than came is not', () => {
  said(0.4);
  expect(likelyBits([came(125_000, 1_000)])).toBe(400_000);
  said(10);
  expect(likelyBits([came(125_000, 1_000)])).toBe(1_000_000);
  expect(likelyBits([])).toBe(10_000_000);
});
