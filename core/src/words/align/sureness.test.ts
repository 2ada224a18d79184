import { clarityOf, surenessOf } from './sureness';

/** Words of 0.3 s, one every 0.4 s. */
const words = (...scores: number[]) =>
  scores.map((score, at) => ({ score, startUs: at * 400_000, endUs: at * 400_000 + 300_000 }));

it('knows how clearly a whole recording could be heard', () => {
  // Medians as measured: people and synthesized voices; then noise, another language, speech played backwards.
  const clarity = (score: number) => clarityOf(words(score, score, score), 1_200_000);
  for (const score of [-24_800, -27_200, -29_400]) expect(clarity(score)).toBeGreaterThan(0.9);
  for (const score of [-37_100, -38_400, -56_200]) expect(clarity(score)).toBeLessThan(0.15);
});

it('trusts few words in much sound little', () => {
  expect(clarityOf(words(-25_000), 6_000_000)).toBeCloseTo(0.1, 1);
  expect(clarityOf([], 6_000_000)).toBe(0);
  expect(clarityOf(words(-25_000), 0)).toBe(0);
});

it('compares words with the others of the same voice', () => {
  const heard = words(-25_000, -26_000, -24_000, -25_500, -60_000);
  const sure = heard.map(surenessOf(heard));
  expect(sure[0]).toBeGreaterThan(90);
  expect(sure[4]).toBeLessThan(10);
});
