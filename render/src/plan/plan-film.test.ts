import type { Decisions } from '@under-chalk/core/edit/decisions';
import { filmOf, type Film } from '@under-chalk/core/film/film';
import { heardOf } from '@under-chalk/core/sound/heard';
import { AT_SPEED, sameRate } from '@under-chalk/core/time/rate';
import { lessonOf, takeOfLength } from '@under-chalk/core/testing/lessons';
import { wholeTakes } from '@under-chalk/core/lesson/placement';
import type { Take } from '@under-chalk/core/lesson/take';
import * as fc from 'fast-check';
import { decisions, takes } from '../testing/mixtures';
import { planFilm } from './plan-film';
import { FADE, PACKET, PIECE_PACKETS, planSound } from './sound';

jest.setTimeout(120_000);

const s = (seconds: number) => Math.round(seconds * 1_000_000);
const SIZE = { widthPx: 640, heightPx: 360 };

/** The same take, processed anew with more or other footage in it. */
const grown = (take: Take, digest: string): Take => ({
  ...take,
  tracks: take.tracks.map((track) => ({ ...track, digest: `${digest}-${track.kind}` })),
});
const film = fc
  .tuple(decisions, fc.shuffledSubarray(takes, { minLength: 1 }), fc.constantFrom('', 'b'))
  .map(([decided, chosen, digest]): Film => {
    const order = chosen.map((take) => grown(take, digest));
    return filmOf(lessonOf(order, { ...wholeTakes(order.map(({ id }) => id)), ...decided }));
  });

/** Holds that names and what they name belong together one to one, over all that it is told. */
const oneToOne = () => {
  const byName = new Map<string, string>();
  const byContent = new Map<string, string>();
  return (name: string, content: string) => {
    if (!byName.has(name)) byName.set(name, content);
    if (!byContent.has(content)) byContent.set(content, name);
    // Long values are told apart without being printed.
    expect(byName.get(name) === content).toBe(true);
    expect(byContent.get(content)).toBe(name);
    return byName.size;
  };
};

it('names a chunk by what all of its frames show and nothing else, over lessons and takes that grow', async () => {
  const same = oneToOne();
  let kinds = 0;
  let shared = 0;
  await fc.assert(
    fc.asyncProperty(film, async (made) => {
      const plan = await planFilm(made, SIZE, '');
      plan.manifest.chunks.forEach(({ key, frames }, index) => {
        const { scenes, tracks } = plan.chunkWork(index);
        expect(scenes).toHaveLength(frames);
        const before = kinds;
        kinds = same(key, JSON.stringify([scenes, tracks.map(({ id, digest }) => [id, digest])]));
        if (kinds === before) shared++;
      });
    }),
    { seed: 5, numRuns: 150 },
  );
  expect(kinds).toBeGreaterThan(200);
  expect(shared).toBeGreaterThan(50);
});

it('names a chunk of a take that is still recorded as it is named when it has ended', async () => {
  const marked = (lengthS: number, digest: string) => {
    const take = grown(takeOfLength('take-long', s(lengthS)), digest);
    const marks = Array.from({ length: Math.floor(lengthS / 2) }, (_, at) => ({
      untilUs: s(2 * at + 2),
      digest: `two-seconds-${at}`,
    }));
    return planFilm(filmOf(lessonOf([take])), SIZE, '', { marksOf: () => marks });
  };
  const keysOf = async (lengthS: number, digest: string) =>
    (await marked(lengthS, digest)).manifest.chunks.map(({ key }) => key);
  const [sofar, whole] = [await keysOf(30, 'of-thirty'), await keysOf(61, 'of-all')];
  // All but the last, which ends with the take.
  expect(sofar.slice(0, -1)).toEqual(whole.slice(0, sofar.length - 1));
  expect(whole).not.toContain(sofar.at(-1));
  // What comes after the last mark is known by the whole.
  const other = await keysOf(61, 'of-others');
  const differing = whole.filter((key) => !other.includes(key));
  expect(differing).toEqual(whole.slice(-1));
});

it('names a piece of sound by all that is heard in it, and the film by all of it', async () => {
  const same = oneToOne();
  const films = oneToOne();
  await fc.assert(
    fc.asyncProperty(film, fc.constantFrom('a', 'b'), async (made, title) => {
      const { manifest, soundWork } = await planFilm(made, SIZE, title);
      manifest.sound.forEach(({ key }, index) => {
        const { stretches, ...piece } = soundWork(index);
        const heard = stretches.map(({ tracks, ...one }) => ({
          ...one,
          tracks: tracks.map(({ track: { id, digest }, ...how }) => [id, digest, how]),
        }));
        same(key, JSON.stringify([piece, heard]));
      });
      const { id, ...all } = manifest;
      films(id, JSON.stringify(all));
    }),
    { seed: 6, numRuns: 150 },
  );
});

it('is another film with something else beside it, of the same pieces', async () => {
  const take = takeOfLength('take-one', s(20));
  const planned = async (decisions: Partial<Decisions>) =>
    (await planFilm(filmOf(lessonOf([take], decisions)), SIZE, '')).manifest;
  const plain = await planned({});
  const seen = { id: 'seen-table', takeId: take.id, atUs: s(3), text: 'A tide table.' };
  const described = await planned({ audioDescriptions: [seen] });
  const note = { id: 'interaction-one', takeId: take.id, atUs: s(3), text: 'Read it off.' };
  const asked = await planned({ interactions: [{ ...note, does: { is: 'note' } }] });
  expect(new Set([plain.id, described.id, asked.id]).size).toBe(3);
  for (const { chunks, sound } of [described, asked])
    expect([chunks, sound]).toEqual([plain.chunks, plain.sound]);
  // What was cut is not beside it either.
  const cuts = [{ takeId: take.id, startUs: s(2), endUs: s(4) }];
  expect((await planned({ cuts, audioDescriptions: [seen] })).id).toBe(
    (await planned({ cuts })).id,
  );
});

describe('sound', () => {
  const HOUR = s(3_600);
  const hour = takeOfLength('take-hour', HOUR);
  const cut = (start: number, end: number) => ({
    takeId: hour.id,
    startUs: s(start),
    endUs: s(end),
  });
  const keys = async (cuts: ReturnType<typeof cut>[]) =>
    (await planFilm(filmOf(lessonOf([hour], { cuts })), SIZE, '')).manifest;

  it('is made anew only where a cut touches it, whatever its length', async () => {
    const before = await keys([cut(600, 603.3)]);
    const sound = new Set(before.sound.map(({ key }) => key));
    const chunks = new Set(before.chunks.map(({ key }) => key));
    for (const length of [0.1, 1, 2.7333, 30.5]) {
      const after = await keys([cut(600, 603.3), cut(1_500, 1_500 + length)]);
      const fresh = after.sound.filter(({ key }) => !sound.has(key));
      const packets = fresh.reduce((sum, { frames }) => sum + frames, 0);
      const all = after.sound.reduce((sum, { frames }) => sum + frames, 0);
      expect(packets / all).toBeLessThan(0.02);
      expect(after.chunks.filter(({ key }) => !chunks.has(key)).length).toBeLessThanOrEqual(2);
    }
  });

  it('has every packet of the film once, and each stretch within half a packet of its picture', () =>
    fc.assert(
      fc.property(film, (made) => {
        const pieces = planSound(made);
        const all = heardOf(made);
        const packets = pieces.reduce((sum, piece) => sum + piece.packets, 0);
        // One more: the encoder's first, which only opens the second.
        expect(packets).toBe(Math.ceil((made.frames * 1_600) / PACKET) + 1);
        let packet = 0;
        for (const [index, { packets: kept, preRoll, stretches }] of pieces.entries()) {
          const begins = (packet - (index === 0 ? 1 : 0) - preRoll) * PACKET;
          for (const { at, from, length, tracks, rate, ...faded } of stretches) {
            const heard = all.find(
              (one) =>
                one.take.tracks.includes(tracks[0]!.track) &&
                sameRate(one.rate, rate ?? AT_SPEED) &&
                from >= one.step * 1_600 &&
                from + length <= (one.step + one.frames) * 1_600,
            )!;
            // Nothing that was cut out is heard, not even for a moment.
            expect(heard).toBeDefined();
            const picture = from - heard.step * 1_600 + heard.filmFrame * 1_600;
            expect(Math.abs(begins + at - picture)).toBeLessThanOrEqual(PACKET / 2);
            const { fadedIn, fadesOutAfter, fades } = faded;
            expect(Math.min(fadedIn, fadesOutAfter)).toBeGreaterThanOrEqual(0);
            expect(fadedIn).toBeLessThanOrEqual(fades?.in ?? FADE);
            expect(fadesOutAfter).toBeLessThanOrEqual(fades?.out ?? FADE);
          }
          packet += kept - (index === 0 ? 1 : 0);
        }
      }),
      { seed: 7, numRuns: 200 },
    ));

  it('has pieces that are neither very short nor very long', async () => {
    const { sound } = await keys([cut(10, 10.5), cut(20, 44), cut(50, 50.1)]);
    const lengths = sound.slice(0, -1).map(({ frames }) => frames);
    expect(Math.min(...lengths)).toBeGreaterThan(7);
    expect(Math.max(...lengths)).toBeLessThan(3 * PIECE_PACKETS);
  });

  it('has no endless piece where nothing is heard for long: an hour that goes by eight times as fast', () => {
    const speeds = [{ takeId: hour.id, startUs: 0, endUs: hour.durationUs, speed: 800 }];
    const made = filmOf(lessonOf([hour], { speeds }));
    const pieces = planSound(made);
    expect(Math.max(...pieces.map(({ packets }) => packets))).toBeLessThan(9 * PIECE_PACKETS);
    const all = pieces.reduce((sum, { packets }) => sum + packets, 0);
    expect(all).toBe(Math.ceil((made.frames * 1_600) / PACKET) + 1);
  });

  it('has no endless piece, also where the grid lies in nothing but cuts', () => {
    const grid = (PIECE_PACKETS * PACKET) / 48_000;
    const cuts = Array.from({ length: 330 }, (_, index) => cut(index * grid - 3, index * grid + 6));
    const inside = cuts.map((one) => ({ ...one, startUs: Math.max(0, one.startUs) }));
    const pieces = planSound(filmOf(lessonOf([hour], { cuts: inside })));
    const lengths = pieces.map(({ packets }) => packets);
    expect(Math.max(...lengths)).toBeLessThan(5 * PIECE_PACKETS);
    expect(pieces.length).toBeGreaterThan(8);
  });
});
