import type { Edit } from '@under-chalk/core/edit/edit';
import { replay } from '@under-chalk/core/edit/history';
import { changedTrack } from '@under-chalk/core/ink/changed-track';
import { inkTrackOf } from '@under-chalk/core/ink/ink-track';
import { nowUs } from '../../../capture/common-clock';
import { FilmWriting } from './film-writing';

const paper = { ruling: 'plain', shade: 'dark' } as const;
const TRACK = inkTrackOf([
  { at: 0, do: 'page', page: 'page-one', paper },
  {
    ...{ at: 1_000_000, do: 'begin', stroke: 'stroke-there' },
    pen: { tool: 'pen', colour: 'main', width: 0.005, stays: 'wiped' },
  },
  {
    ...{ at: 1_000_000, do: 'draw', stroke: 'stroke-there' },
    samples: [
      [0, 0.2, 0.2, 0.5],
      [100_000, 0.6, 0.2, 0.5],
    ],
  },
  { at: 1_100_000, do: 'end', stroke: 'stroke-there' },
]);

const writing = (playing = false, nowAt: number | null = null) => {
  const put: Edit[][] = [];
  const made = new FilmWriting();
  made.start(
    (edits) => put.push([...edits]),
    () => nowAt,
  );
  const lay = (takeUs = 2_000_000, track: typeof TRACK | null = TRACK) =>
    made.lay({ takeId: 'take-one', takeUs, playing, track, changes: [] });
  lay();
  const draw = async (...places: [number, number][]) => {
    const at = (index: number) => {
      const [x, y] = places[index]!;
      return { x, y, pressure: 0.5, atUs: nowUs() - (places.length - index) * 50_000 };
    };
    made.board.down(at(0));
    places.slice(1).forEach((_, index) => made.board.move([at(index + 1)]));
    made.board.up();
    await Promise.resolve();
  };
  return { made, put, lay, draw };
};

it('adds what is drawn where the picture stands, on its page, all at once', async () => {
  const { put, draw } = writing();
  await draw([0.1, 0.4], [0.2, 0.4], [0.3, 0.4]);
  expect(put).toHaveLength(1);
  expect(put[0]).toMatchObject([
    { do: 'add-ink', takeId: 'take-one', stroke: { page: 'page-one', atUs: 2_000_000 } },
  ]);
  const [edit] = put[0]!;
  const laters = edit?.do === 'add-ink' ? edit.stroke.samples.map(([later]) => later) : [];
  expect(laters).toEqual([0, 0, 0]);
});

it('draws as the hand drew while it plays, from where the film was when it came down', async () => {
  const { put, draw } = writing(true, 5_000_000);
  await draw([0.1, 0.4], [0.2, 0.4], [0.3, 0.4]);
  const [edit] = put[0]!;
  if (edit?.do !== 'add-ink') throw new Error('nothing was added');
  expect(edit.stroke.atUs).toBeGreaterThan(4_700_000);
  expect(edit.stroke.atUs).toBeLessThan(4_900_000);
  expect(edit.stroke.samples.reduce((sum, [later]) => sum + later, 0)).toBeGreaterThan(80_000);
});

it('moves and takes away what is in the picture, and paints only what the picture doesn’t show yet', async () => {
  const { made, put, draw } = writing();
  expect(made.board.toPaint().strokes).toEqual([]);
  made.board.choose({ tool: 'select' });
  await draw([0.4, 0.2], [0.5, 0.3], [0.5, 0.35]);
  expect(put).toEqual([
    [
      {
        ...{ do: 'change-ink', takeId: 'take-one', strokes: ['stroke-there'] },
        change: { x: 0.1, y: 0.15 },
      },
    ],
  ]);
  expect(made.board.toPaint().strokes).toHaveLength(1);
  made.board.takeAway();
  await Promise.resolve();
  expect(put[1]).toMatchObject([{ change: { gone: true } }]);
});

it('keeps what is selected when the picture changes, and selects what it shows only then', () => {
  const { made, lay } = writing();
  lay(500_000);
  expect(made.board.view().strokes).toBe(0);
  made.select(['stroke-there']);
  expect(made.board.view().selected).toBe(0);
  lay(2_000_000);
  expect(made.board.view().selected).toBe(1);
  const { decisions } = replay([
    {
      ...{ id: 'entry-one', by: 'teacher' },
      edit: {
        ...{ do: 'change-ink', takeId: 'take-one', strokes: ['stroke-there'] },
        change: { colour: 'red' },
      },
    },
  ]);
  lay(2_000_000, changedTrack(TRACK, 'take-one', decisions));
  expect(made.board.view().selected).toBe(1);
  expect(made.board.selected()[0]!.stroke.pen.colour).toBe('red');
});

it('leaves a hand that is down alone: the picture is laid when it is lifted', () => {
  const { made, lay } = writing();
  made.board.down({ x: 0.1, y: 0.1, pressure: 0.5, atUs: nowUs() });
  lay(500_000);
  expect(made.board.isDown()).toBe(true);
  made.board.abandon();
  lay(500_000);
  expect(made.board.view().strokes).toBe(0);
});
