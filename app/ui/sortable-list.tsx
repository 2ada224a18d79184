import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import GripVertical from 'lucide-react-native/icons/grip-vertical';
import type { ReactNode } from 'react';
import { StyleSheet, View } from 'react-native';
import { SPACE, useTheme } from './theme';

interface Props {
  readonly label: string;
  /** What one of them is called in a sentence: *the point*, *the film*. */
  readonly noun: string;
  readonly items: readonly { readonly id: string; readonly name: string }[];
  /** One was put down at another's place, counted from 0. */
  readonly onMove: (id: string, to: number) => void;
  /** Rows that stand in a {@link SortableRow} each. */
  readonly children: ReactNode;
}

/** A list whose rows can be dragged into another order: by pointer, by touch, and by keys. */
export const SortableList = ({ label, noun, items, onMove, children }: Props) => {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const place = (id: string | number) => items.findIndex((item) => item.id === id);
  const nameOf = (id: string | number) => items[place(id)]?.name ?? '';
  const move = ({ active, over }: DragEndEvent) => {
    if (over && over.id !== active.id) onMove(String(active.id), place(over.id));
  };
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={move}
      accessibility={{
        screenReaderInstructions: {
          draggable: `Press the space bar to take ${noun}, move it with the arrow keys, and press the space bar again to put it down. Escape leaves it where it was.`,
        },
        announcements: {
          onDragStart: ({ active }) => `${nameOf(active.id)} is taken.`,
          onDragOver: ({ active, over }) =>
            over ? `${nameOf(active.id)} is at place ${place(over.id) + 1}.` : '',
          onDragEnd: ({ active, over }) =>
            over ? `${nameOf(active.id)} is put down at place ${place(over.id) + 1}.` : '',
          onDragCancel: ({ active }) => `${nameOf(active.id)} stays where it was.`,
        },
      }}
    >
      <SortableContext items={items.map(({ id }) => id)} strategy={verticalListSortingStrategy}>
        <View role="list" aria-label={label} style={styles.group}>
          {children}
        </View>
      </SortableContext>
    </DndContext>
  );
};

interface RowProps {
  readonly id: string;
  readonly name: string;
  /** @param grip what it is dragged by */
  readonly children: (grip: ReactNode) => ReactNode;
}

/** A row of a {@link SortableList}. */
export const SortableRow = ({ id, name, children }: RowProps) => {
  const theme = useTheme();
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition } =
    useSortable({ id });
  return (
    <div
      ref={setNodeRef}
      role="listitem"
      style={{ transform: CSS.Transform.toString(transform) ?? '', transition: transition ?? '' }}
    >
      {children(
        <button
          ref={setActivatorNodeRef}
          {...attributes}
          {...listeners}
          type="button"
          aria-label={`Move ${name}`}
          style={{ ...GRIP, color: theme.inkSoft }}
        >
          <GripVertical size={22} color={theme.inkSoft} />
        </button>,
      )}
    </div>
  );
};

const GRIP = {
  minWidth: 44,
  minHeight: 44,
  display: 'flex',
  alignItems: 'center',
  justifyContent: 'center',
  background: 'none',
  border: 'none',
  cursor: 'grab',
  touchAction: 'none',
} as const;

const styles = StyleSheet.create({ group: { gap: SPACE.small } });
