import type { Film } from '@under-chalk/core/film/film';
import type { InkColour } from '@under-chalk/core/ink/pen';
import {
  POINTER_SIZES,
  type PointerLook,
  type PointerMark,
} from '@under-chalk/core/pointer/look';
import { useEdits } from '../../data/edits';
import { usePart } from '../../data/live-value';
import type { FilmPlayer } from '../../player/film-player';
import { ChoiceLine } from '../../ui/choice-line';
import { Choices } from '../../ui/choices';

const MARKS: readonly { readonly value: PointerMark; readonly label: string }[] = [
  { value: 'halo', label: 'a halo' },
  { value: 'arrow', label: 'a wedge of chalk' },
  { value: 'spotlight', label: 'a spotlight' },
  { value: 'none', label: 'nothing' },
];
const COLOURS: readonly InkColour[] = ['amber', 'red', 'blue', 'green', 'violet', 'main'];
type Size = keyof typeof POINTER_SIZES;
const SIZES = Object.keys(POINTER_SIZES) as Size[];
const GOES = [
  { value: '0', label: 'never' },
  { value: '1000000', label: 'after 1 s' },
  { value: '3000000', label: 'after 3 s' },
  { value: '10000000', label: 'after 10 s' },
];

const sizeOf = (mark: PointerMark, size: Size) =>
  POINTER_SIZES[size][mark === 'spotlight' ? 'light' : 'mark'];

const nearest = ({ mark, size }: PointerLook): Size =>
  SIZES.reduce((best, one) =>
    Math.abs(sizeOf(mark, one) - size) < Math.abs(sizeOf(mark, best) - size) ? one : best,
  );

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
  const size = nearest(look);
  const change = (part: Partial<PointerLook>) =>
    put({ do: 'show-pointer', look: { ...look, ...part } });
  if (!pointed) return null;
  const label = MARKS.find(({ value }) => value === look.mark)!.label;
  return (
    <ChoiceLine label="Where you point there is" value={label}>
      <Choices
        label="Where you point there is"
        hideLabel
        choices={MARKS}
        value={look.mark}
        onChoose={(mark) => change({ mark, size: sizeOf(mark, size) })}
      />
      {look.mark === 'none' ? null : (
        <>
          <Choices
            label="Its size"
            choices={SIZES.map((value) => ({ value, label: value }))}
            value={size}
            onChoose={(chosen) => change({ size: sizeOf(look.mark, chosen) })}
          />
          {look.mark === 'halo' || look.rings ? (
            <Choices
              label="Its colour"
              choices={COLOURS.map((value) => ({
                value,
                label: value === 'main' ? 'chalk' : value,
              }))}
              value={look.colour}
              onChoose={(colour) => change({ colour })}
            />
          ) : null}
          <Choices
            label="A ring where you press"
            choices={[
              { value: 'on', label: 'yes' },
              { value: 'off', label: 'no' },
            ]}
            value={look.rings ? 'on' : 'off'}
            onChoose={(value) => change({ rings: value === 'on' })}
          />
          <Choices
            label="It goes when it is still"
            choices={GOES}
            value={String(look.goesAfterUs)}
            onChoose={(value) => change({ goesAfterUs: Number(value) })}
          />
        </>
      )}
    </ChoiceLine>
  );
};
