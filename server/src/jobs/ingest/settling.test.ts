import { budgetOf } from './ingest';

const minutes = (ms: number) => ms / 60_000;
const deadline = (bytes: number, packets = 0, pixels = 0) => {
  const budget = budgetOf(bytes, true);
  budget.allow(packets, pixels);
  return budget.limits({}).deadlineMs!;
};

afterEach(() => jest.restoreAllMocks());

it('gives a small file seconds, and a large one hours', () => {
  expect(deadline(60_000)).toBeLessThanOrEqual(20_000);
  expect(minutes(deadline(1_000_000_000))).toBeGreaterThan(60);
});

it('gives an hour of quiet slides the time that an hour of pictures takes', () =>
  // 30 MB of them, 108,000 pictures of 1920×1080, on a machine that encodes five a second.
  expect(minutes(deadline(30_000_000, 108_000, 1920 * 1080))).toBeGreaterThan(360));

it('gives each step no more than is left, and none when nothing is', () => {
  const now = jest.spyOn(Date, 'now').mockReturnValue(1_000_000);
  const { limits } = budgetOf(60_000, true);
  expect(limits({ deadlineMs: 5_000, memoryBytes: 7 })).toMatchObject({
    deadlineMs: 5_000,
    memoryBytes: 7,
  });
  now.mockReturnValue(1_018_000);
  expect(limits({ deadlineMs: 5_000 }).deadlineMs).toBe(2_000);
  now.mockReturnValue(1_021_000);
  expect(() => limits({})).toThrow('it took 20 s');
});

it('counts no time that a step had to wait for others', () => {
  const now = jest.spyOn(Date, 'now').mockReturnValue(1_000_000);
  const { limits } = budgetOf(60_000, true);
  const { forgiven } = limits({});
  now.mockReturnValue(1_021_000);
  forgiven!(9_000);
  expect(limits({}).deadlineMs).toBe(8_000);
});

it('is more patient with recordings of our own', () =>
  expect(budgetOf(60_000, false).limits({}).deadlineMs).toBeGreaterThan(50_000));
