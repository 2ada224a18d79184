import { useEffect, useRef, useState } from 'react';
import { StyleSheet, View, type TextInput } from 'react-native';
import { usePart } from '../../data/live-value';
import { Button } from '../../ui/button';
import { Choices } from '../../ui/choices';
import { Field } from '../../ui/field';
import { focusOn } from '../../ui/focus';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { BoardPages } from './board-pages';
import { BOARD, CAPTURED } from './board-stacks';
import type { HandTool, LiveBoard } from './live-board';
import { PenChoices } from './pen-choices';
import { useWritingHand } from './writing-hand';

const TOOLS: readonly { readonly value: HandTool; readonly label: string }[] = [
  { value: 'pen', label: 'Pen' },
  { value: 'highlighter', label: 'Mark' },
  { value: 'line', label: 'Line' },
  { value: 'arrow', label: 'Arrow' },
  { value: 'box', label: 'Box' },
  { value: 'ellipse', label: 'Ring' },
  { value: 'text', label: 'Words' },
  { value: 'select', label: 'Select' },
  { value: 'wipe', label: 'Wipe' },
  { value: 'wipe-part', label: 'Wipe part' },
  { value: 'point', label: 'Point' },
];

/** What makes no sense on a picture of a film. */
const NOT_AFTERWARDS: readonly HandTool[] = ['wipe', 'wipe-part', 'point'];

interface Props {
  readonly board: LiveBoard;
  /** Only what is written with, and no undoing and no pages: those are elsewhere. */
  readonly bare?: boolean;
}

/** With what the hand writes, on which page, and the way back. */
export const BoardTools = ({ board, bare = false }: Props) => {
  const tool = usePart(board, (view) => view.tool);
  const canUndo = usePart(board, (view) => view.canUndo);
  const canRedo = usePart(board, (view) => view.canRedo);
  // What has pages to turn is turned more often than it is written on.
  const turns = usePart(board, ({ stack }) => stack !== BOARD && stack !== CAPTURED);
  const hand = useWritingHand();
  const line = [styles.line, hand === 'left' ? styles.leftHand : null];
  return (
    <View role="group" aria-label="Board" style={styles.tools}>
      {turns && !bare ? <PageLine board={board} /> : null}
      <Choices
        label="Tool"
        hideLabel
        segments
        rows={2}
        choices={bare ? TOOLS.filter(({ value }) => !NOT_AFTERWARDS.includes(value)) : TOOLS}
        value={tool}
        onChoose={(chosen) => board.choose({ tool: chosen })}
      />
      {(tool === 'select' && bare) || tool === 'point' ? null : <PenChoices board={board} />}
      {tool === 'text' ? <WordsToPut board={board} /> : null}
      {tool === 'select' && !bare ? <Selected board={board} /> : null}
      {bare ? null : (
        <>
          <View style={line}>
            <Button small grow label="Undo" disabled={!canUndo} onPress={() => board.undo()} />
            <Button small grow label="Redo" disabled={!canRedo} onPress={() => board.redo()} />
            <WidthButton board={board} />
          </View>
          {turns ? null : <PageLine board={board} />}
        </>
      )}
    </View>
  );
};

const NEXT = { thin: 'middling', middling: 'thick', thick: 'thin' } as const;

/** How wide the line is; a press makes it the next width. */
export const WidthButton = ({ board }: { board: LiveBoard }) => {
  const width = usePart(board, (view) => view.width);
  return (
    <Button
      small
      grow
      label={width}
      spoken={`The line is ${width}: make it ${NEXT[width]}`}
      onPress={() => board.choose({ width: NEXT[width] })}
    />
  );
};

/** Words are typed, and put where the page was touched. */
const WordsToPut = ({ board }: { board: LiveBoard }) => {
  const [text, setText] = useState('');
  const field = useRef<TextInput>(null);
  const asked = usePart(board, (view) => view.textAsked);
  const before = useRef(asked);
  useEffect(() => {
    // Where the page was touched is where the words go: they are typed next.
    if (asked !== before.current) focusOn(field.current);
    before.current = asked;
  }, [asked]);
  const put = () => {
    if (text.trim() === '') return;
    board.write(text.trim());
    setText('');
    focusOn(field.current);
  };
  return (
    <View style={styles.line}>
      <View style={styles.field}>
        <Field
          ref={field}
          label="Words to put on the page"
          hideLabel
          placeholder="Touch the page, and type"
          maxLength={300}
          value={text}
          onChangeText={setText}
          onSubmitEditing={put}
        />
      </View>
      <Button small label="Put it there" disabled={text.trim() === ''} onPress={put} />
    </View>
  );
};

/** What is selected, and what can be done to it. */
const Selected = ({ board }: { board: LiveBoard }) => {
  const selected = usePart(board, (view) => view.selected);
  return (
    <View style={styles.line}>
      <Words size="small" tone="soft" style={styles.field}>
        {selected === 0
          ? 'Touch what is to be moved, or draw round it.'
          : `${selected} selected: drag to move`}
      </Words>
      <Button
        small
        kind="grave"
        label="Take away"
        spoken="Take away what is selected"
        disabled={selected === 0}
        onPress={() => board.takeAway()}
      />
    </View>
  );
};

/** Which page is shown, and the way to others. */
const PageLine = ({ board }: { board: LiveBoard }) => {
  const page = usePart(board, (view) => view.page);
  const pages = usePart(board, (view) => view.pages);
  const stack = usePart(board, (view) => view.stack);
  const stacks = usePart(board, (view) => view.stacks);
  const [open, setOpen] = useState(false);
  const hand = useWritingHand();
  const over = stacks[0]!.id === CAPTURED;
  const last = page === pages - 1;
  // With nothing but the board there is one thing to open, and to leave again.
  const many = stacks.length > (over ? 2 : 1);
  const choice = many ? (
    <Choices
      label="What lies here"
      hideLabel
      choices={stacks.map(({ id, name }) => ({ value: id, label: shortened(name) }))}
      value={stack}
      onChoose={(id) => board.open(id)}
    />
  ) : null;
  if (stack === CAPTURED) {
    return choice ?? <Button small label="Open the board" onPress={() => board.open(BOARD)} />;
  }
  return (
    <>
      <View style={[styles.line, hand === 'left' ? styles.leftHand : null]}>
        {over && !many ? (
          <Button
            small
            grow
            label="Cancel"
            spoken="Leave the board"
            onPress={() => board.open(CAPTURED)}
          />
        ) : null}
        <Button
          small
          grow
          label="Turn back"
          spoken="Turn back a page"
          disabled={page === 0}
          onPress={() => board.turnTo(page - 1)}
        />
        <Button
          small
          grow
          label={`${page + 1} of ${pages}`}
          spoken={`Page ${page + 1} of ${pages}: all pages`}
          expanded={open}
          onPress={() => setOpen(true)}
        />
        <Button
          small
          grow
          label={!last ? 'Turn on' : stack === BOARD ? 'New page' : 'Blank page'}
          spoken={!last ? 'Turn to the next page' : 'A new page'}
          onPress={() => board.turnTo(page + 1)}
        />
      </View>
      {choice}
      {open ? <BoardPages board={board} onClose={() => setOpen(false)} /> : null}
    </>
  );
};

/** Longer names leave no room for the others. */
const MOST_NAME = 22;
const shortened = (name: string) =>
  name.length > MOST_NAME ? `${name.slice(0, MOST_NAME - 1)}…` : name;

const styles = StyleSheet.create({
  tools: { gap: SPACE.small },
  line: { flexDirection: 'row', alignItems: 'center', gap: SPACE.small },
  leftHand: { flexDirection: 'row-reverse' },
  field: { flexGrow: 1, flexShrink: 1, minWidth: 0 },
});
