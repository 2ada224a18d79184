import { NoRoster, readOneRoster, writeOneRoster } from './one-roster';

const CLASSES = [
  {
    id: 'class-coastal',
    name: 'Coastal navigation for beginners',
    students: [
      { id: 'student-bram', name: 'Bram Okafor', address: 'bram@lantern-quay.example' },
      { id: 'student-pia', name: 'Pia van der Sorrell', address: null },
    ],
  },
  { id: 'class-knots', name: 'Knots, “and” splices', students: [] },
];
const plain = CLASSES.map(({ name, students }) => ({
  name,
  students: students.map(({ name: of, address }) => ({ name: of, address })),
}));

it('comes back as it went out', () => {
  const files = writeOneRoster(CLASSES, 'Lantern Quay Evening Classes', 2026);
  expect(readOneRoster(files)).toEqual(plain);
});

it('has the files that its manifest tells of, with the heads of the standard in their order', () => {
  const files = writeOneRoster(CLASSES, 'Lantern Quay Evening Classes', 2026);
  const manifest = files.get('manifest.csv')!;
  expect(manifest).toContain('oneroster.version,1.2');
  const told = [...manifest.matchAll(/^file\.(\w+),(bulk|absent)\r$/gm)];
  expect(told).toHaveLength(21);
  for (const [, name, how] of told) expect(files.has(`${name}.csv`)).toBe(how === 'bulk');
  const head = (name: string) => files.get(name)!.split('\r\n')[0];
  expect(head('enrollments.csv')).toBe(
    'sourcedId,status,dateLastModified,classSourcedId,schoolSourcedId,userSourcedId,role,primary,beginDate,endDate',
  );
  expect(head('orgs.csv')).toBe(
    'sourcedId,status,dateLastModified,name,type,identifier,parentSourcedId',
  );
  // In bulk, status and date are left empty.
  expect(files.get('classes.csv')).toContain('class-coastal,,,Coastal navigation');
});

it('keeps students of a class alone: no teachers, none that were deleted, and the names that they go by', () => {
  const files = new Map([
    ['classes.csv', '\uFEFFsourcedId,status,title\nc1,active,Knots\nc2,tobedeleted,Old'],
    [
      'users.csv',
      'sourcedId,status,givenName,familyName,preferredGivenName,email\nu1,,Abraham,Okafor,Bram,bram@x.example\nu2,,Ottilie,Marsh,,\nu3,tobedeleted,Ida,Lost,,\nu4,,Ines,Carrow,,not an address',
    ],
    [
      'enrollments.csv',
      'sourcedId,status,classSourcedId,userSourcedId,role\ne1,,c1,u1,student\ne2,,c1,u2,teacher\ne3,,c1,u3,student\ne4,,c1,u4,student\ne5,,c1,nobody,student\ne6,tobedeleted,c1,u1,student',
    ],
  ]);
  expect(readOneRoster(files)).toEqual([
    {
      name: 'Knots',
      students: [
        { name: 'Bram Okafor', address: 'bram@x.example' },
        { name: 'Ines Carrow', address: null },
      ],
    },
  ]);
});

it('tells classes of one name apart by their codes', () => {
  const files = new Map([
    ['classes.csv', 'sourcedId,title,classCode\nc1,Knots,MON\nc2,Knots,\nc3,Lights,X'],
    ['users.csv', 'sourcedId,givenName,familyName\nu1,Bram,Okafor'],
    ['enrollments.csv', 'sourcedId,classSourcedId,userSourcedId,role\ne1,c2,u1,student'],
  ]);
  const read = readOneRoster(files).map(({ name, students }) => [name, students.length]);
  expect(read).toEqual([
    ['Knots (MON)', 0],
    ['Knots (2)', 1],
    ['Lights', 0],
  ]);
});

it('says where it is none', () => {
  expect(() => readOneRoster(new Map([['classes.csv', 'x']]))).toThrow(NoRoster);
});
