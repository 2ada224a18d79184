import { StyleSheet, View } from 'react-native';
import { INK_COLOURS, inkColourSchema, type InkColour } from '@under-chalk/core/ink/pen';
import { usePart } from '../../data/live-value';
import { Button } from '../../ui/button';
import { Choices } from '../../ui/choices';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { WIDTHS, type BoardView, type HandTool, type LiveBoard } from './live-board';

const TOOLS: readonly { readonly value: HandTool; readonly label: string }[] = [
  { value: 'pen', label: 'Pen' },
  { value: 'highlighter', label: 'Mark' },
  { value: 'line', label: 'Line' },
  { value: 'arrow', label: 'Arrow' },
  { value: 'box', label: 'Box' },
  { value: 'ellipse', label: 'Ring' },
  { value: 'wipe', label: 'Wipe' },
];

/** What a colour is called; the first is that of chalk on a dark page, of ink on a light one. */
const colourName = (colour: InkColour, shade: BoardView['paper']['shade']): string =>
  colour === 'main' ? (shade === 'dark' ? 'white' : 'black') : colour;

const NEXT: Readonly<Record<keyof typeof WIDTHS, keyof typeof WIDTHS>> = {
  thin: 'middling',
  middling: 'thick',
  thick: 'thin',
};

/** With what the hand writes, on which page, and the way back. */
export const BoardTools = ({ board }: { board: LiveBoard }) => {
  const tool = usePart(board, (view) => view.tool);
  const colour = usePart(board, (view) => view.colour);
  const width = usePart(board, (view) => view.width);
  const shade = usePart(board, (view) => view.paper.shade);
  const page = usePart(board, (view) => view.page);
  const pages = usePart(board, (view) => view.pages);
  const canUndo = usePart(board, (view) => view.canUndo);
  const canRedo = usePart(board, (view) => view.canRedo);
  const last = page === pages - 1;
  return (
    <View role="group" aria-label="Board" style={styles.tools}>
      <Choices
        label="Tool"
        hideLabel
        segments
        choices={TOOLS}
        value={tool}
        onChoose={(chosen) => board.choose({ tool: chosen })}
      />
      <Choices
        label="Colour"
        hideLabel
        segments
        choices={inkColourSchema.options.map((value) => ({
          value,
          label: colourName(value, shade),
          swatch: INK_COLOURS[shade][value],
        }))}
        value={colour}
        onChoose={(chosen) => board.choose({ colour: chosen })}
      />
      <View style={styles.line}>
        <Button small grow label="Undo" disabled={!canUndo} onPress={() => board.undo()} />
        <Button small grow label="Redo" disabled={!canRedo} onPress={() => board.redo()} />
        <Button
          small
          grow
          label={width}
          spoken={`The line is ${width}: make it ${NEXT[width]}`}
          onPress={() => board.choose({ width: NEXT[width] })}
        />
      </View>
      <View style={styles.line}>
        <Button
          small
          grow
          label="Turn back"
          spoken="Turn back a page"
          disabled={page === 0}
          onPress={() => board.turnTo(page - 1)}
        />
        <Words size="small" style={styles.page}>{`page ${page + 1} of ${pages}`}</Words>
        <Button
          small
          grow
          label={last ? 'New page' : 'Turn on'}
          spoken={last ? 'A new page' : 'Turn to the next page'}
          onPress={() => board.turnTo(page + 1)}
        />
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  tools: { gap: SPACE.small },
  line: { flexDirection: 'row', alignItems: 'center', gap: SPACE.small },
  page: { textAlign: 'center' },
});
