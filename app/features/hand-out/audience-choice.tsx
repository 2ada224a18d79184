import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { folded } from '@under-chalk/core/class/class';
import type { ShareLink } from '@under-chalk/core/contract/share-links';
import { grantTo, granteeKey, type Grant, type Grantee } from '@under-chalk/core/share-link/grant';
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
  /** Names of those who are chosen already, also of students of other classes; where there are such. */
  readonly named?: ShareLink['watchers'];
  /** Never with nobody. */
  readonly onChange: (grants: Grant[]) => void;
}

const isStudent = ({ grantee }: { readonly grantee: Grantee }): boolean => grantee.is === 'student';

/** Who may watch: anyone with the link, classes, single students; as many of them as are wanted. */
export const AudienceChoice = ({
  grants,
  className,
  disabled = false,
  named = [],
  onChange,
}: Props) => {
  const { data: classes = [] } = useClasses();
  const inOrder = [...classes].sort(
    (a, b) => Number(b.name === className) - Number(a.name === className),
  );
  const chosen = new Set(grants.map(({ grantee }) => granteeKey(grantee)));
  const change = (grantee: Grantee) => (checked: boolean) => {
    const others = grants.filter((grant) => granteeKey(grant.grantee) !== granteeKey(grantee));
    const next = checked ? [...others, grantTo(grantee)] : others;
    if (next.length > 0) onChange(next);
  };
  /** The last one stays: who wants nobody to watch takes the link away. */
  const row = (grantee: Grantee, label: string, hint?: string) => {
    const checked = chosen.has(granteeKey(grantee));
    return (
      <CheckRow
        key={granteeKey(grantee)}
        label={label}
        {...(hint ? { hint } : {})}
        checked={checked}
        disabled={disabled || (checked && grants.length === 1)}
        onChange={change(grantee)}
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
        <OneByOne
          key={first.id}
          classId={first.id}
          name={first.name}
          row={row}
          chosen={chosen}
          named={named}
        />
      ) : (
        named.filter(isStudent).map(({ grantee, name }) => row(grantee, name))
      )}
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
  named,
}: {
  classId: string;
  name: string;
  row: (grantee: Grantee, label: string) => React.ReactNode;
  chosen: ReadonlySet<string>;
  named: ShareLink['watchers'];
}) => {
  const { data } = useClass(classId);
  const [wanted, setWanted] = useState('');
  const students = data?.students ?? [];
  const granteeOf = (studentId: string): Grantee => ({ is: 'student', studentId });
  // Those who are chosen stand first; not anew with each press, which would move what is pressed.
  const [chosenFirst] = useState(chosen);
  const isChosen = (id: string) => chosenFirst.has(granteeKey(granteeOf(id)));
  const found = students
    .filter(({ id, name: theirs }) => isChosen(id) || folded(theirs).includes(folded(wanted)))
    .sort((a, b) => Number(isChosen(b.id)) - Number(isChosen(a.id)));
  const most = Math.max(OFFERED, chosenFirst.size);
  // Nobody who may watch is left out of sight: not who is in another class, either.
  const others = named.filter(
    ({ grantee }) =>
      grantee.is === 'student' && data && !students.some(({ id }) => id === grantee.studentId),
  );
  return (
    <View style={styles.group}>
      {others.map(({ grantee, name: theirs }) => row(grantee, theirs))}
      <Words size="small" strong tone="soft">
        {`Or single students of ${name}`}
      </Words>
      {students.length > OFFERED ? (
        <Field label="Look for a name" value={wanted} onChangeText={setWanted} maxLength={200} />
      ) : null}
      {found.slice(0, most).map((student) => row(granteeOf(student.id), student.name))}
      {found.length > most ? (
        <Words size="small" tone="soft">
          {`And ${found.length - most} more.`}
        </Words>
      ) : null}
    </View>
  );
};

const styles = StyleSheet.create({ group: { gap: SPACE.small } });
