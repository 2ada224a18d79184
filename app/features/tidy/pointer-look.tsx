import type { Film } from '@under-chalk/core/film/film';
import type { PointerLook } from '@under-chalk/core/pointer/look';
import { useEdits } from '../../data/edits';
import { usePart } from '../../data/live-value';
import type { FilmPlayer } from '../../player/film-player';
import { ChoiceLine } from '../../ui/choice-line';
import { LookChoices, type MarkChoice } from './look-choices';

const MARKS: readonly MarkChoice[] = [
  { value: 'halo', label: 'a halo' },
  { value: 'arrow', label: 'a wedge of chalk' },
  { value: 'spotlight', label: 'a spotlight' },
  { value: 'none', label: 'nothing' },
];

interface Props {
  readonly film: Film;
  readonly player: FilmPlayer;
}

/** How what was pointed at is drawn; nothing where nothing was. */
export const PointerLookChoice = ({ film, player }: Props) => {
  const { put } = useEdits();
  const pointed = usePart(player, () =>
    film.spans.some(({ take }) => (player.inkOf(take.id)?.pointer.runs.length ?? 0) > 0),
  );
  const look = film.lesson.decisions.pointer;
  if (!pointed) return null;
  const label = 'Pointer highlight';
  return (
    <ChoiceLine label={label} value={MARKS.find(({ value }) => value === look.mark)!.label}>
      <LookChoices
        {...{ label, look }}
        marks={MARKS}
        rings="A ring where you press"
        presses="marked"
        holds
        onChange={(part: Partial<PointerLook>) =>
          put({ do: 'show-pointer', look: { ...look, ...part } })
        }
      />
    </ChoiceLine>
  );
};
