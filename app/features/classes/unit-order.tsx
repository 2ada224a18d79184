import { StyleSheet, View } from 'react-native';
import type { Unit } from '@under-chalk/core/class/class';
import { codeOf } from '../../data/client';
import { useOrderUnit, useUnitOrder } from '../../data/queries';
import { Button } from '../../ui/button';
import { useFocusWhen } from '../../ui/focus';
import { Menu } from '../../ui/menu';
import { ProblemNotice } from '../../ui/notice';
import { Failed, Loading } from '../../ui/screen';
import { SortableList, SortableRow } from '../../ui/sortable-list';
import { Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';

interface Props {
  readonly classId: string;
  readonly unit: Unit;
  readonly onDone: () => void;
}

/** The films of a unit, to be put into another order on the pages of the class. */
export const UnitOrder = ({ classId, unit, onDone }: Props) => {
  const theme = useTheme();
  const films = useUnitOrder(classId, unit.id);
  const order = useOrderUnit(classId, unit.id);
  const group = useFocusWhen(true);
  const all = films.data;
  const move = (id: string, to: number) => {
    if (!all) return;
    const moved = all.find(({ lessonId }) => lessonId === id);
    const others = all.filter(({ lessonId }) => lessonId !== id);
    if (moved) order.mutate([...others.slice(0, to), moved, ...others.slice(to)]);
  };
  return (
    <View
      ref={group}
      role="group"
      aria-label={`Order of the films of ${unit.name}`}
      {...({ tabIndex: -1 } as object)}
      style={styles.group}
    >
      {!all ? (
        films.error ? (
          <Failed code={codeOf(films.error)} onRetry={() => void films.refetch()} />
        ) : (
          <Loading what="its films" />
        )
      ) : all.length === 0 ? (
        <Words tone="soft">Nothing of it is handed out to the class yet.</Words>
      ) : (
        <SortableList
          label={`Films of ${unit.name}`}
          noun="the film"
          items={all.map(({ lessonId, title }) => ({ id: lessonId, name: title }))}
          onMove={move}
        >
          {all.map(({ lessonId, title }, at) => (
            <SortableRow key={lessonId} id={lessonId} name={title}>
              {(grip) => (
                <View
                  style={[styles.row, { borderColor: theme.line, backgroundColor: theme.paper }]}
                >
                  {grip}
                  <Words style={styles.title}>{title || 'Untitled film'}</Words>
                  {all.length > 1 ? (
                    <Menu
                      of={title}
                      items={[
                        ...(at > 0
                          ? [{ label: 'Move up', onPress: () => move(lessonId, at - 1) }]
                          : []),
                        ...(at < all.length - 1
                          ? [{ label: 'Move down', onPress: () => move(lessonId, at + 1) }]
                          : []),
                      ]}
                    />
                  ) : null}
                </View>
              )}
            </SortableRow>
          ))}
        </SortableList>
      )}
      {order.error ? <ProblemNotice code={codeOf(order.error)} /> : null}
      <View style={styles.line}>
        <Button small label="Done with the order" onPress={onDone} />
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  group: { width: '100%', gap: SPACE.small, paddingVertical: SPACE.small },
  row: {
    flexDirection: 'row',
    alignItems: 'center',
    gap: SPACE.small,
    borderWidth: 1,
    borderRadius: RADIUS.small,
  },
  title: { flex: 1, ...({ overflowWrap: 'anywhere' } as object) },
  line: { flexDirection: 'row' },
});
