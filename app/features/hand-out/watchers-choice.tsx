import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { folded } from '@under-chalk/core/class/class';
import { whomKey, type Grant, type Whom } from '@under-chalk/core/hand-out/grant';
import { useClass, useClasses } from '../../data/queries';
import { CheckRow } from '../../ui/check-row';
import { counted } from '../../ui/counted';
import { Field } from '../../ui/field';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';

/** So many students of a class are offered before one is looked for by name. */
const OFFERED = 12;

interface Props {
  readonly grants: readonly Grant[];
  /** The class that the lesson is of, by its name: it stands first, and its students are offered. */
  readonly className: string;
  readonly disabled?: boolean;
  /** Never with nobody. */
  readonly onChange: (grants: Grant[]) => void;
}

/** Who may watch: anyone with the link, classes, single students; as many of them as are wanted. */
export const WatchersChoice = ({ grants, className, disabled = false, onChange }: Props) => {
  const { data: classes = [] } = useClasses();
  const inOrder = [...classes].sort(
    (a, b) => Number(b.name === className) - Number(a.name === className),
  );
  const chosen = new Set(grants.map(({ whom }) => whomKey(whom)));
  const change = (whom: Whom) => (checked: boolean) => {
    const others = grants.filter((grant) => whomKey(grant.whom) !== whomKey(whom));
    const next = checked ? [...others, { whom, fromAt: null, untilAt: null }] : others;
    if (next.length > 0) onChange(next);
  };
  /** The last one stays: who wants nobody to watch takes the link away. */
  const row = (whom: Whom, label: string, hint?: string) => {
    const checked = chosen.has(whomKey(whom));
    return (
      <CheckRow
        key={whomKey(whom)}
        label={label}
        {...(hint ? { hint } : {})}
        checked={checked}
        disabled={disabled || (checked && grants.length === 1)}
        onChange={change(whom)}
      />
    );
  };
  const first = inOrder.find(({ name }) => name === className) ?? inOrder[0];
  return (
    <View style={styles.group}>
      {row({ is: 'anyone' }, 'Anyone with the link', 'Without signing in')}
      {inOrder.map(({ id, name, students }) =>
        row({ is: 'class', classId: id }, `The class ${name}`, counted(students, 'student')),
      )}
      {first && first.students > 0 ? (
        <OneByOne key={first.id} classId={first.id} name={first.name} row={row} chosen={chosen} />
      ) : null}
      <Words size="small" tone="soft">
        A class, and single students, find the film on their own pages; nobody else can open it.
        Their addresses are under Classes.
      </Words>
    </View>
  );
};

/** Single students of a class; in a large one they are looked for. */
const OneByOne = ({
  classId,
  name,
  row,
  chosen,
}: {
  classId: string;
  name: string;
  row: (whom: Whom, label: string) => React.ReactNode;
  chosen: ReadonlySet<string>;
}) => {
  const { data } = useClass(classId);
  const [wanted, setWanted] = useState('');
  const students = data?.students ?? [];
  const whomOf = (studentId: string): Whom => ({ is: 'student', studentId });
  const found = students.filter(
    (student) =>
      chosen.has(whomKey(whomOf(student.id))) || folded(student.name).includes(folded(wanted)),
  );
  return (
    <View style={styles.group}>
      <Words size="small" strong tone="soft">
        {`Or single students of ${name}`}
      </Words>
      {students.length > OFFERED ? (
        <Field label="Look for a name" value={wanted} onChangeText={setWanted} maxLength={200} />
      ) : null}
      {found.slice(0, OFFERED).map((student) => row(whomOf(student.id), student.name))}
      {found.length > OFFERED ? (
        <Words size="small" tone="soft">{`And ${found.length - OFFERED} more.`}</Words>
      ) : null}
    </View>
  );
};

const styles = StyleSheet.create({ group: { gap: SPACE.small } });
