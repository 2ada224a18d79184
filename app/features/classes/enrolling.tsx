import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useMemo, useRef, useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { newOnes } from '@under-chalk/core/class/class';
import {
  guessColumns,
  readRoster,
  studentsIn,
  type ColumnOf,
} from '@under-chalk/core/class/roster-table';
import type { ClassView } from '@under-chalk/core/contract/classes';
import { AppError } from '@under-chalk/core/errors/errors';
import { call, codeOf } from '../../data/client';
import { classCame } from '../../data/queries';
import { Button } from '../../ui/button';
import { ChoiceLine } from '../../ui/choice-line';
import { Choices } from '../../ui/choices';
import { Field } from '../../ui/field';
import { FileInput } from '../../ui/file-input';
import { ProblemNotice } from '../../ui/notice';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { counted } from '../../ui/counted';
import { readRosterFile } from './read-roster-file';

const COLUMNS: Readonly<Record<ColumnOf, string>> = {
  name: 'Name',
  given: 'Given name',
  family: 'Family name',
  address: 'Address for mail',
  nothing: 'Leave it out',
};
const WHY = { 'no-name': 'no name', 'bad-address': 'not an address' } as const;
/** So many of a list are shown before it is brought in. */
const SHOWN = 5;

/** Brings students into a class: from names that are pasted, or a list in whatever columns, seen before it is brought in. */
export const Enrolling = ({ view }: { view: ClassView }) => {
  const client = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const [text, setText] = useState('');
  const [came, setCame] = useState<number | null>(null);
  const [chosen, setChosen] = useState<Readonly<Record<number, ColumnOf>>>({});
  const table = useMemo(() => readRoster(text), [text]);
  const columns = guessColumns(table).map((guessed, at) => chosen[at] ?? guessed);
  const { students, left } = studentsIn(table, columns);
  const coming = newOnes(students, view.students);
  const write = (now: string) => {
    setText(now);
    setCame(null);
    setChosen({});
  };
  // What a column says is said by one of them.
  const choose = (at: number, of: ColumnOf) =>
    setChosen(
      Object.fromEntries(
        columns.map((was, other) => [other, other === at ? of : was === of ? 'nothing' : was]),
      ),
    );
  const open = useMutation({
    mutationFn: async (file: File) => {
      const read = await readRosterFile(file);
      if (read.is === 'list') return read.text;
      // A roster of classes: the one of this name, or the only one.
      const own = read.classes.find(({ name }) => name === view.name);
      const one = own ?? (read.classes.length === 1 ? read.classes[0] : undefined);
      if (!one) throw new AppError('no-roster');
      return one.students.map(({ name, address }) => `${name}\t${address ?? ''}`).join('\n');
    },
    onSuccess: write,
  });
  const enrol = useMutation({
    mutationFn: () =>
      call('enrol', {
        params: { classId: view.id },
        body: { students: coming.map((one) => ({ ...one, address: one.address ?? '' })) },
      }),
    onSuccess: ({ view: now, added }) => {
      classCame(client, now);
      write('');
      setCame(added);
    },
  });
  const error = open.error ?? enrol.error;
  const isList = table.columns > 1;
  const there = students.length - coming.length;
  return (
    <View style={styles.group}>
      <Field
        label="Bring students in"
        placeholder={'A name a line, or a list that you paste'}
        value={text}
        onChangeText={write}
        multiline
        numberOfLines={text === '' ? 2 : 5}
      />
      {isList ? (
        <View style={styles.columns}>
          <Words strong>What its columns say</Words>
          {columns.map((of, at) => {
            const sample = table.rows
              .map((row) => row[at]!)
              .filter(Boolean)
              .slice(0, 2)
              .join(', ');
            const head = table.heads?.[at] || sample || `column ${at + 1}`;
            return (
              <ChoiceLine key={at} label={head} value={COLUMNS[of]}>
                <Choices
                  label={`What “${head}” says`}
                  hideLabel
                  stacked
                  choices={Object.entries(COLUMNS).map(([value, label]) => ({
                    value: value as ColumnOf,
                    label,
                  }))}
                  value={of}
                  onChoose={(now) => choose(at, now)}
                />
              </ChoiceLine>
            );
          })}
        </View>
      ) : null}
      {text.trim() === '' ? null : (
        <View style={styles.seen} role="status">
          {coming.slice(0, SHOWN).map(({ name, address }, index) => (
            <Words key={index}>{address ? `${name} · ${address}` : name}</Words>
          ))}
          {coming.length > SHOWN ? (
            <Words tone="soft">{`and ${coming.length - SHOWN} more`}</Words>
          ) : null}
          {there > 0 ? (
            <Words tone="soft">{`In the class already, or in the list twice: ${there}.`}</Words>
          ) : null}
          {left.slice(0, SHOWN).map(({ row, why }) => (
            <Words key={row} tone="warn">
              {`Left out, ${WHY[why]}: ${table.rows[row]!.filter(Boolean).join(', ').slice(0, 80)}`}
            </Words>
          ))}
          {left.length > SHOWN ? (
            <Words tone="warn">{`and ${left.length - SHOWN} lines more are left out`}</Words>
          ) : null}
        </View>
      )}
      <View style={styles.buttons}>
        {text.trim() === '' ? null : (
          <Button
            kind="main"
            label={`Bring ${counted(coming.length, 'student')} in`}
            disabled={coming.length === 0 || enrol.isPending}
            onPress={() => enrol.mutate()}
          />
        )}
        <Button
          label={text.trim() === '' ? 'From a file' : 'Another file'}
          spoken="Bring students in from a file: CSV, or a roster"
          disabled={open.isPending}
          onPress={() => input.current?.click()}
        />
      </View>
      {came === null ? null : (
        <Words role="status" tone="good">
          {`In the class now: ${counted(came, 'new student')}.`}
        </Words>
      )}
      {error ? <ProblemNotice code={codeOf(error)} /> : null}
      <FileInput
        ref={input}
        label="A list of students"
        accept=".csv,.tsv,.txt,.zip,text/csv,text/plain,application/zip"
        onFiles={([file]) => open.mutate(file!)}
      />
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  columns: { gap: SPACE.small },
  seen: { gap: SPACE.hair },
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
