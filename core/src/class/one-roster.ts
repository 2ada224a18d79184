import { parse } from 'csv-parse/browser/esm/sync';
import { stringify } from 'csv-stringify/browser/esm/sync';
import { cleanText } from '../text/clean';
import { personNameSchema, studentSchema, type NewStudent } from './class';

/**
 * Classes and students as OneRoster 1.2 has them in CSV (1EdTech, OneRoster CSV Binding 1.2, bulk): a file a kind, and a manifest. Read and
 * written are `manifest.csv`, `orgs.csv`, `courses.csv`, `academicSessions.csv`, `classes.csv`, `users.csv`, `roles.csv` and
 * `enrollments.csv`; of what is read, only what names classes and students is kept.
 */

/** A class with its students, as it comes or goes. */
export interface RosterClass {
  readonly name: string;
  readonly students: readonly NewStudent[];
}

/** Texts of files, by name. */
export type RosterFiles = ReadonlyMap<string, string>;

/** It is no such roster, or what it needs is missing. */
export class NoRoster extends Error {
  constructor(why: string) {
    super(why);
    this.name = 'NoRoster';
  }
}

type Row = Readonly<Record<string, string | undefined>>;

const rowsOf = (files: RosterFiles, name: string): Row[] => {
  const text = files.get(name);
  if (text === undefined) return [];
  return parse(cleanText(text).replace(/^\uFEFF/, ''), {
    ...{ columns: true, relax_column_count: true, skip_empty_lines: true, trim: true },
  }) as Row[];
};

/** What was deleted is told as well (`tobedeleted`). */
const isThere = ({ status }: Row): boolean => status?.toLowerCase() !== 'tobedeleted';

const studentOf = (row: Row): NewStudent | null => {
  const given = row['preferredGivenName'] || row['givenName'];
  const family = row['preferredFamilyName'] || row['familyName'];
  const name = [given, family].filter(Boolean).join(' ');
  const email = row['email'] ?? '';
  const whole = studentSchema.unwrap().omit({ id: true });
  const read = whole.safeParse({ name, address: email === '' ? null : email });
  if (read.success) return read.data;
  // One whose address can't be one is a student all the same.
  return whole.safeParse({ name, address: null }).data ?? null;
};

/**
 * @param files of the archive, by name, without folders
 * @throws NoRoster where there are no classes in it
 */
export const readOneRoster = (files: RosterFiles): RosterClass[] => {
  if (!files.has('classes.csv') || !files.has('enrollments.csv') || !files.has('users.csv'))
    throw new NoRoster('classes.csv, users.csv or enrollments.csv is missing');
  const students = new Map(
    rowsOf(files, 'users.csv')
      .filter(isThere)
      .flatMap((row): [string, NewStudent][] => {
        const student = studentOf(row);
        return student && row['sourcedId'] ? [[row['sourcedId'], student]] : [];
      }),
  );
  const enrolled = new Map<string, NewStudent[]>();
  for (const row of rowsOf(files, 'enrollments.csv').filter(isThere)) {
    const student = students.get(row['userSourcedId'] ?? '');
    if (row['role']?.toLowerCase() !== 'student' || !student) continue;
    const id = row['classSourcedId'] ?? '';
    enrolled.set(id, [...(enrolled.get(id) ?? []), student]);
  }
  const classes = rowsOf(files, 'classes.csv').filter(isThere);
  const named = new Map<string, number>();
  return classes.flatMap((row): RosterClass[] => {
    const title = row['title'] ?? '';
    const times = (named.get(title) ?? 0) + 1;
    named.set(title, times);
    // Of several that are called the same, each has its code, or its number.
    const isAlone = classes.every((other) => other === row || other['title'] !== row['title']);
    const name = personNameSchema.safeParse(
      isAlone ? title : `${title} (${row['classCode'] || times})`,
    );
    return name.success
      ? [{ name: name.data, students: enrolled.get(row['sourcedId'] ?? '') ?? [] }]
      : [];
  });
};

/** All files that a manifest tells of (Binding 1.2, 4.1). */
const ALL_FILES = [
  ...['academicSessions', 'categories', 'classes', 'classResources', 'courses', 'courseResources'],
  ...['demographics', 'enrollments', 'lineItems', 'orgs', 'resources', 'results', 'roles'],
  ...['scoreScales', 'userProfiles', 'userResources', 'users', 'lineItemLearningObjectiveIds'],
  ...['lineItemScoreScales', 'resultLearningObjectiveIds', 'resultScoreScales'],
];

const csv = (columns: readonly string[], rows: readonly Readonly<Record<string, string>>[]) =>
  stringify([...rows], { header: true, columns: [...columns], record_delimiter: '\r\n' });

interface OutClass extends RosterClass {
  readonly id: string;
  readonly students: readonly (NewStudent & { readonly id: string })[];
}

const SCHOOL = 'under-chalk';
const BASE = ['sourcedId', 'status', 'dateLastModified'];

/**
 * Files of a roster in bulk, with some classes.
 *
 * @param school what the place is called, as an organisation of its own
 * @param year whose session it is in
 */
export const writeOneRoster = (
  classes: readonly OutClass[],
  school: string,
  year: number,
): Map<string, string> => {
  const users = new Map(classes.flatMap(({ students }) => students.map((one) => [one.id, one])));
  const term = `year-${year}`;
  const made = new Map<string, string>();
  made.set(
    'orgs.csv',
    csv(
      [...BASE, 'name', 'type', 'identifier', 'parentSourcedId'],
      [{ sourcedId: SCHOOL, name: school, type: 'school' }],
    ),
  );
  made.set(
    'academicSessions.csv',
    csv(
      [...BASE, 'title', 'type', 'startDate', 'endDate', 'parentSourcedId', 'schoolYear'],
      [
        {
          ...{ sourcedId: term, title: String(year), type: 'schoolYear' },
          ...{ startDate: `${year}-01-01`, endDate: `${year + 1}-01-01`, schoolYear: String(year) },
        },
      ],
    ),
  );
  made.set(
    'courses.csv',
    csv(
      [
        ...[...BASE, 'schoolYearSourcedId', 'title', 'courseCode', 'grades', 'orgSourcedId'],
        ...['subjects', 'subjectCodes'],
      ],
      classes.map(({ id, name }) => ({
        ...{ sourcedId: `course-${id}`, title: name, orgSourcedId: SCHOOL },
      })),
    ),
  );
  made.set(
    'classes.csv',
    csv(
      [
        ...[...BASE, 'title', 'grades', 'courseSourcedId', 'classCode', 'classType', 'location'],
        ...['schoolSourcedId', 'termSourcedIds', 'subjects', 'subjectCodes', 'periods'],
      ],
      classes.map(({ id, name }) => ({
        ...{ sourcedId: id, title: name, courseSourcedId: `course-${id}`, classType: 'scheduled' },
        ...{ schoolSourcedId: SCHOOL, termSourcedIds: term },
      })),
    ),
  );
  made.set(
    'users.csv',
    csv(
      [
        ...[...BASE, 'enabledUser', 'username', 'userIds', 'givenName', 'familyName', 'middleName'],
        ...['identifier', 'email', 'sms', 'phone', 'agentSourcedIds', 'grades', 'password'],
        ...['userMasterIdentifier', 'preferredGivenName', 'preferredMiddleName'],
        ...['preferredFamilyName', 'primaryOrgSourcedId', 'pronouns'],
      ],
      [...users.values()].map(({ id, name, address }) => {
        // Its form has a given and a family name; the last word is taken for the second.
        const words = name.split(' ');
        const familyName = words.length > 1 ? words.pop()! : '';
        return {
          ...{ sourcedId: id, enabledUser: 'true', username: address ?? id },
          ...{ givenName: words.join(' '), familyName, email: address ?? '' },
          primaryOrgSourcedId: SCHOOL,
        };
      }),
    ),
  );
  made.set(
    'roles.csv',
    csv(
      [
        ...[...BASE, 'userSourcedId', 'roleType', 'role', 'beginDate', 'endDate', 'orgSourcedId'],
        'userProfileSourcedId',
      ],
      [...users.keys()].map((id) => ({
        ...{ sourcedId: `role-${id}`, userSourcedId: id, roleType: 'primary', role: 'student' },
        orgSourcedId: SCHOOL,
      })),
    ),
  );
  made.set(
    'enrollments.csv',
    csv(
      [
        ...[...BASE, 'classSourcedId', 'schoolSourcedId', 'userSourcedId', 'role', 'primary'],
        ...['beginDate', 'endDate'],
      ],
      classes.flatMap((one) =>
        one.students.map((student) => ({
          ...{ sourcedId: `${one.id}-${student.id}`, classSourcedId: one.id },
          ...{ schoolSourcedId: SCHOOL, userSourcedId: student.id, role: 'student' },
        })),
      ),
    ),
  );
  const manifest = [
    { propertyName: 'manifest.version', value: '1.0' },
    { propertyName: 'oneroster.version', value: '1.2' },
    ...ALL_FILES.map((name) => ({
      propertyName: `file.${name}`,
      value: made.has(`${name}.csv`) ? 'bulk' : 'absent',
    })),
    { propertyName: 'source.systemName', value: 'Under Chalk' },
    { propertyName: 'source.systemCode', value: 'under-chalk' },
  ];
  return new Map([['manifest.csv', csv(['propertyName', 'value'], manifest)], ...made]);
};
