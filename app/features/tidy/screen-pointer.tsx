import type { Film } from '@under-chalk/core/film/film';
import type { Take } from '@under-chalk/core/lesson/take';
import { screenOf } from '@under-chalk/core/pointer/found';
import { useEdits } from '../../data/edits';
import { usePart } from '../../data/live-value';
import type { FilmPlayer } from '../../player/film-player';
import type { PointerStates } from '../../player/seen-pointers';
import { ChoiceLine } from '../../ui/choice-line';
import { Words } from '../../ui/text';
import { LookChoices, type MarkChoice } from './look-choices';

const MARKS: readonly MarkChoice[] = [
  { value: 'none', label: 'nothing' },
  { value: 'halo', label: 'a halo' },
  { value: 'spotlight', label: 'a spotlight' },
];

/** How it stands with the pointers of some takes together. */
interface Standing {
  /** For how much of them all it is sure, 0 to 1. */
  readonly sure: number;
  readonly presses: number;
  /** How much has been looked at; null: all. */
  readonly looked: number | null;
}

export const standingOf = (takes: readonly Take[], states: PointerStates): Standing => {
  let [lengthUs, sureUs, lookedUs, presses, isLooking] = [0, 0, 0, 0, false];
  for (const { id, durationUs } of takes) {
    const state = states.get(id);
    lengthUs += durationUs;
    if (state?.is === 'found') {
      sureUs += state.found.sureShare * durationUs;
      presses += state.found.presses.length;
    }
    isLooking ||= state?.is === 'looking';
    lookedUs += (state?.is === 'looking' ? state.share : 1) * durationUs;
  }
  const share = (us: number) => (lengthUs > 0 ? us / lengthUs : 0);
  return { sure: share(sureUs), presses, looked: isLooking ? share(lookedUs) : null };
};

const percent = (share: number) => `${Math.round(share * 100)} %`;

interface Props {
  readonly film: Film;
  readonly player: FilmPlayer;
}

/** What is drawn round the pointer on a captured screen, where it was found; nothing where there is no such screen. */
export const ScreenPointerChoice = ({ film, player }: Props) => {
  const { put } = useEdits();
  const states = usePart(player.pointers.states, (value) => value);
  const takes = [...new Set(film.spans.map(({ take }) => take))].filter(screenOf);
  const { sure, presses, looked } = standingOf(takes, states);
  const look = film.lesson.decisions.screenPointer;
  // A fraction of a second somewhere is no pointer to be followed.
  const none = sure < 0.01;
  if (takes.length === 0 || (none && looked === null)) return null;
  if (none) {
    return (
      <Words tone="soft">
        The pointer on the screen is being looked for: {percent(looked!)} done.
      </Words>
    );
  }
  const label = 'Round the pointer on the screen there is';
  const value = MARKS.find((one) => one.value === look.mark)?.label ?? 'nothing';
  const also = look.rings ? `${value}, and rings` : value;
  return (
    <ChoiceLine label={label} value={also}>
      <Words tone="soft">
        Found for {percent(sure)} of what the screen shows; elsewhere nothing is drawn.
        {looked === null ? '' : ` Still looking: ${percent(looked)} done.`}
      </Words>
      <LookChoices
        {...{ label, look }}
        marks={MARKS}
        rings={`A ring where it seems to have been pressed (${presses} ${presses === 1 ? 'place' : 'places'})`}
        presses={presses > 0 ? 'always' : 'never'}
        onChange={(part) => put({ do: 'show-screen-pointer', look: { ...look, ...part } })}
      />
    </ChoiceLine>
  );
};
