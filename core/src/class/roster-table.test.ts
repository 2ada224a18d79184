import * as fc from 'fast-check';
import { isSameStudent, KnownStudents, newOnes, type NewStudent } from './class';
import { guessColumns, readRoster, rosterCsv, studentsIn } from './roster-table';

const read = (text: string) => {
  const table = readRoster(text);
  const columns = guessColumns(table);
  return { ...studentsIn(table, columns), columns, heads: table.heads };
};
const bram = { name: 'Bram Okafor', address: 'bram@lantern-quay.example' };
const ines = { name: 'Ines Carrow', address: 'ines@lantern-quay.example' };

describe('a list of students', () => {
  it('is names, a line each', () => {
    const { students, left } = read('Bram Okafor\n\n  Ines Carrow \r\nWen Castellan');
    expect(students.map(({ name }) => name)).toEqual([
      'Bram Okafor',
      'Ines Carrow',
      'Wen Castellan',
    ]);
    expect(left).toEqual([]);
  });
  it('is names with the family first', () => {
    const { students } = read('Okafor, Bram\nCarrow, Ines\nvan der Meer, Pia');
    expect(students.map(({ name }) => name)).toEqual([
      'Bram Okafor',
      'Ines Carrow',
      'Pia van der Meer',
    ]);
  });
  it('is what a mail program has', () =>
    expect(
      read(`"Bram Okafor" <${bram.address}>,\nInes Carrow <${ines.address}>`).students,
    ).toEqual([bram, ines]));
  it.each([
    ['commas', ','],
    ['semicolons', ';'],
    ['tabs', '\t'],
  ])('is CSV parted by %s, with heads', (_, by) => {
    const text = `\uFEFFLast name${by}First name${by}Email address${by}Group\r\nOkafor${by}Bram${by}${bram.address}${by}A\r\nCarrow${by}Ines${by}${ines.address}${by}A\r\n`;
    const { students, columns, heads } = read(text);
    expect(students).toEqual([bram, ines]);
    expect(columns).toEqual(['family', 'given', 'address', 'nothing']);
    expect(heads![0]).toBe('Last name');
  });
  it('is CSV without heads: names and addresses are known by what they look like', () => {
    const { students, columns, heads } = read(
      `17,${bram.address},Bram Okafor\n18,${ines.address},Ines Carrow`,
    );
    expect([columns, heads]).toEqual([['nothing', 'address', 'name'], null]);
    expect(students).toEqual([bram, ines]);
  });
  it('takes a group for no given name', () =>
    expect(
      read('Bram Okafor, Group\nInes Carrow, Group\nWen Castellan, Group').students.map(
        ({ name }) => name,
      ),
    ).toEqual(['Bram Okafor', 'Ines Carrow', 'Wen Castellan']));
  it('says which lines nothing can be made of, and goes on', () => {
    const { students, left } = read(
      `name,email\nBram Okafor,no address\n,x@y.example\nInes Carrow,${ines.address}`,
    );
    expect(students).toEqual([ines]);
    expect(left).toEqual([
      { row: 0, why: 'bad-address' },
      { row: 1, why: 'no-name' },
    ]);
  });
  it('may be anything at all: it is read, or left', () =>
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 400 }), (text) => {
        const { students } = read(text);
        for (const { name } of students) expect(name.trim().length).toBeGreaterThan(0);
      }),
    ));
  it('comes back as it went out, and is no formula to a spreadsheet', () => {
    const odd = { name: '“Wen”, Castellan; the "younger"', address: null };
    expect(read(rosterCsv([bram, odd, ines])).students).toEqual([bram, odd, ines]);
    expect(rosterCsv([{ name: '=HYPERLINK("x")', address: null }])).toContain(`'=HYPERLINK`);
  });
});

describe('one student', () => {
  it('is known by the address, and by the name where one has none', () => {
    expect(isSameStudent(bram, { ...bram, name: 'B. Okafor' })).toBe(true);
    expect(isSameStudent(bram, { name: 'bram  OKAFOR', address: null })).toBe(true);
    expect(isSameStudent(bram, { name: 'Bram Okafor', address: 'other@x.example' })).toBe(false);
    expect(isSameStudent({ name: 'Noör', address: null }, { name: 'Noor', address: null })).toBe(
      true,
    );
  });
  it('is found among many as among each', () => {
    const some = fc.array(
      fc.record({
        name: fc.constantFrom('Bram Okafor', 'bram okafor', 'Ines Carrow', 'Noör'),
        address: fc.constantFrom(null, bram.address, ines.address, 'INES@lantern-quay.example'),
      }),
      { maxLength: 6 },
    );
    fc.assert(
      fc.property(some, some, (present, coming) => {
        const known = new KnownStudents(present);
        for (const one of coming) {
          const found = known.find(one);
          expect(found !== undefined).toBe(present.some((other) => isSameStudent(one, other)));
          if (found) expect(isSameStudent(one, found)).toBe(true);
        }
      }),
    );
  });
  it('comes into a class once', () => {
    const coming: NewStudent[] = [bram, ines, { name: 'BRAM OKAFOR', address: null }];
    expect(newOnes(coming, [])).toEqual([bram, ines]);
    expect(newOnes(coming, [ines])).toEqual([bram]);
  });
});
