import type { Decisions, PlacedTake, Stretch } from '../lesson/lesson';
import type { Id } from '../lesson/take';
import { merge, overlaps, subtract } from '../time/ranges';
import type { Edit } from './edit';

/** Cuts of one take replaced by the result of `change` on them; other takes' cuts untouched. */
const withCuts = (
  decisions: Decisions,
  takeId: Id,
  change: (cuts: readonly Stretch[]) => readonly { startUs: number; endUs: number }[],
): Decisions => {
  const others = decisions.cuts.filter((cut) => cut.takeId !== takeId);
  const own = decisions.cuts.filter((cut) => cut.takeId === takeId);
  return {
    ...decisions,
    cuts: [...others, ...change(own).map((cut) => ({ takeId, ...cut }))],
  };
};

const withPlaced = (decisions: Decisions, placed: readonly PlacedTake[]): Decisions => ({
  ...decisions,
  placed,
});

/**
 * The decisions after one more edit. Pure and total: an edit about a take that isn't in the film is
 * kept (cuts and arrangements wait for the take to come back) and never throws, so that any list of
 * valid edits has a result.
 */
export const applyEdit = (decisions: Decisions, edit: Edit): Decisions => {
  switch (edit.do) {
    case 'plan': {
      const set = Object.fromEntries(
        Object.entries(edit.set).filter(([, value]) => value !== undefined),
      );
      return { ...decisions, plan: { ...decisions.plan, ...set } };
    }
    case 'place-take': {
      const present = decisions.placed.find((placed) => placed.takeId === edit.takeId);
      const others = decisions.placed.filter((placed) => placed.takeId !== edit.takeId);
      const at = Math.min(edit.at ?? others.length, others.length);
      const placed = present ?? { takeId: edit.takeId, startUs: 0, endUs: null };
      return withPlaced(decisions, [...others.slice(0, at), placed, ...others.slice(at)]);
    }
    case 'leave-out-take':
      return withPlaced(
        decisions,
        decisions.placed.filter((placed) => placed.takeId !== edit.takeId),
      );
    case 'trim':
      return withPlaced(
        decisions,
        decisions.placed.map((placed) =>
          placed.takeId === edit.takeId
            ? { ...placed, startUs: edit.startUs, endUs: edit.endUs }
            : placed,
        ),
      );
    case 'cut':
      return withCuts(decisions, edit.takeId, (cuts) => merge([...cuts, edit]));
    case 'restore':
      return withCuts(decisions, edit.takeId, (cuts) => subtract(cuts, [edit]));
    case 'arrange': {
      const { takeId, startUs, endUs, arrangement } = edit;
      const kept = decisions.arranged.flatMap((stretch) =>
        stretch.takeId === takeId && overlaps(stretch, edit)
          ? subtract([stretch], [edit]).map((part) => ({ ...stretch, ...part }))
          : [stretch],
      );
      return { ...decisions, arranged: [...kept, { takeId, startUs, endUs, arrangement }] };
    }
    case 'set-point': {
      const others = decisions.points.filter((point) => point.id !== edit.point.id);
      return { ...decisions, points: [...others, edit.point] };
    }
    case 'move-point':
      return {
        ...decisions,
        points: decisions.points.map((point) =>
          point.id === edit.pointId ? { ...point, rank: edit.rank } : point,
        ),
      };
    case 'remove-point':
      return {
        ...decisions,
        points: decisions.points.filter((point) => point.id !== edit.pointId),
      };
    case 'tick-point': {
      const others = decisions.ticks.filter((tick) => tick.pointId !== edit.pointId);
      const { pointId, takeId, atUs } = edit;
      return { ...decisions, ticks: [...others, { pointId, takeId, atUs }] };
    }
    case 'untick-point':
      return {
        ...decisions,
        ticks: decisions.ticks.filter((tick) => tick.pointId !== edit.pointId),
      };
    case 'mark-flub':
    case 'unmark-flub': {
      const { takeId, atUs } = edit;
      const others = decisions.flubs.filter((flub) => flub.takeId !== takeId || flub.atUs !== atUs);
      const flubs = edit.do === 'mark-flub' ? [...others, { takeId, atUs }] : others;
      return { ...decisions, flubs };
    }
    case 'crop': {
      const others = decisions.crops.filter((cropped) => cropped.takeId !== edit.takeId);
      const crops = edit.crop ? [...others, { takeId: edit.takeId, crop: edit.crop }] : others;
      return { ...decisions, crops };
    }
    case 'soften':
      return { ...decisions, changeUs: edit.changeUs };
    case 'shape-frame':
      return { ...decisions, frame: { shape: edit.shape } };
  }
};
