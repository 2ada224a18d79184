import {
  INK_COLOURS,
  inkColourSchema,
  type InkColour,
  type Shade,
} from '@under-chalk/core/ink/pen';
import { usePart } from '../../data/live-value';
import { Choices, type Choice } from '../../ui/choices';
import type { LiveBoard } from './live-board';

/** Colours by their names; the first is that of chalk on a dark page, of ink on a light one. */
export const coloursOn = (shade: Shade): readonly Choice<InkColour>[] =>
  inkColourSchema.options.map((value) => ({
    value,
    label: value === 'main' ? (shade === 'dark' ? 'white' : 'black') : value,
    swatch: INK_COLOURS[shade][value],
  }));

/** In which colour the hand writes. */
export const PenChoices = ({ board }: { board: LiveBoard }) => {
  const colour = usePart(board, (view) => view.colour);
  const shade = usePart(board, () => board.page().paper.shade);
  return (
    <Choices
      label="Colour"
      hideLabel
      segments
      choices={coloursOn(shade)}
      value={colour}
      onChoose={(chosen) => board.choose({ colour: chosen })}
    />
  );
};
