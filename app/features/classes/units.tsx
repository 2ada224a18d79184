import Plus from 'lucide-react-native/icons/plus';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { MOST_UNITS, type Unit } from '@under-chalk/core/class/class';
import { pathTo } from '@under-chalk/core/contract/api';
import type { ClassView } from '@under-chalk/core/contract/classes';
import { newId } from '../../capture/new-id';
import { call, codeOf } from '../../data/client';
import { useSetClass } from '../../data/queries';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { Menu } from '../../ui/menu';
import { ProblemNotice } from '../../ui/notice';
import { Row } from '../../ui/row';
import { Heading, Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { UnitOrder } from './unit-order';

/** Weeks or subjects of a class, in the order in which they come. */
export const Units = ({ view, units }: { view: ClassView; units: readonly Unit[] }) => {
  const [name, setName] = useState('');
  const [changing, setChanging] = useState<Unit | null>(null);
  const [ordering, setOrdering] = useState<string | null>(null);
  const set = useSetClass();
  const save = useMutation({
    mutationFn: async ({
      id,
      name: unitName,
      as,
    }: Unit & { as: 'unitArchive' | 'unitCartridge' }) => {
      const where = { classId: view.id, unitId: id };
      const { ready, waiting } = await call('unitFilms', { params: where });
      if (ready + waiting === 0)
        return `Nothing of “${unitName}” has been handed out to ${view.name} yet.`;
      if (waiting > 0)
        return `${waiting === 1 ? 'A film' : `${waiting} films`} of “${unitName}” ${waiting === 1 ? 'is' : 'are'} still being made. Try again in a while.`;
      location.assign(pathTo(as, where));
      return null;
    },
  });
  const put = (now: readonly Unit[], onSuccess?: () => void) =>
    set.mutate({ ...view, units: now }, onSuccess ? { onSuccess } : {});
  const add = () => {
    if (name.trim() === '' || set.isPending || units.length >= MOST_UNITS) return;
    put([...units, { id: newId(), name: name.trim() }], () => setName(''));
  };
  const moved = (from: number, to: number) => {
    const now = units.filter((_, at) => at !== from);
    now.splice(to, 0, units[from]!);
    put(now);
  };
  const rename = (to: Unit) => {
    if (to.name.trim() === '') return;
    put(
      units.map((unit) => (unit.id === to.id ? to : unit)),
      () => setChanging(null),
    );
  };
  return (
    <View style={styles.group}>
      <Heading level={2}>Units or weeks</Heading>
      {units.length === 0 ? (
        <Words tone="soft">None yet. Lessons are put in their order by them.</Words>
      ) : (
        <View role="list" aria-label="Units or weeks" style={styles.list}>
          {units.map((unit, at) => (
            <Row key={unit.id}>
              {changing?.id === unit.id ? (
                <View style={styles.open}>
                  <Field
                    label="Name of the unit"
                    value={changing.name}
                    onChangeText={(to) => setChanging({ ...unit, name: to })}
                    onSubmitEditing={() => rename(changing)}
                    maxLength={200}
                    autoFocus
                  />
                  <View style={styles.line}>
                    <Button label="Name it so" onPress={() => rename(changing)} />
                    <Button label="Cancel" onPress={() => setChanging(null)} />
                  </View>
                </View>
              ) : (
                <>
                  <Words style={styles.grow}>{unit.name}</Words>
                  <Menu
                    of={unit.name}
                    items={[
                      { label: 'Give it another name', onPress: () => setChanging(unit) },
                      ...(at > 0 ? [{ label: 'Move up', onPress: () => moved(at, at - 1) }] : []),
                      ...(at < units.length - 1
                        ? [{ label: 'Move down', onPress: () => moved(at, at + 1) }]
                        : []),
                      { label: 'Order of its films…', onPress: () => setOrdering(unit.id) },
                      {
                        label: 'All its films (ZIP)',
                        onPress: () => save.mutate({ ...unit, as: 'unitArchive' }),
                      },
                      {
                        label: 'All its films, for a course site (Common Cartridge)',
                        onPress: () => save.mutate({ ...unit, as: 'unitCartridge' }),
                      },
                      {
                        label: 'Take it out',
                        onPress: () => put(units.filter(({ id }) => id !== unit.id)),
                      },
                    ]}
                  />
                </>
              )}
              {ordering === unit.id ? (
                <UnitOrder classId={view.id} unit={unit} onDone={() => setOrdering(null)} />
              ) : null}
            </Row>
          ))}
        </View>
      )}
      <View style={styles.line}>
        <View style={styles.grow}>
          <Field
            label="Another unit"
            hideLabel
            placeholder="The next week or subject"
            value={name}
            onChangeText={setName}
            onSubmitEditing={add}
            maxLength={200}
          />
        </View>
        <Button
          label="Add"
          spoken="Add this unit"
          icon={Plus}
          disabled={name.trim() === ''}
          onPress={add}
        />
      </View>
      {save.data ? (
        <Words size="small" role="status">
          {save.data}
        </Words>
      ) : null}
      {save.error ? <ProblemNotice code={codeOf(save.error)} /> : null}
      {set.error ? <ProblemNotice code={codeOf(set.error)} /> : null}
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  list: { gap: SPACE.small },
  line: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small, alignItems: 'flex-end' },
  grow: { flexGrow: 1, flexShrink: 1, flexBasis: 160 },
  open: { flexGrow: 1, gap: SPACE.small, paddingVertical: SPACE.small },
});
