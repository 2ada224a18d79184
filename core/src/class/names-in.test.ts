import type { NewStudent } from './class';
import { studentsInTitle } from './names-in';

const of = (...names: string[]): NewStudent[] => names.map((name) => ({ name, address: null }));
const CLASS = [...of('Noör Halden-Lind', 'Wen Castellane', 'May Oduya', 'Jun', 'Wen Aster')];
const found = (title: string, students = CLASS) =>
  studentsInTitle(title, students).map(({ name }) => name);

it.each([
  ['Feedback for noor halden lind', ['Noör Halden-Lind']],
  ['For Noör: your chart', ['Noör Halden-Lind']],
  ['Your second chart, Jun', ['Jun']],
  ['For May and Jun: the passage plan', ['May Oduya', 'Jun']],
  // By whole names, where there are such.
  ['Wen Aster and Jun', ['Wen Aster']],
  // Two have it; one is another word; one begins the title.
  ['For Wen: your chart', []],
  ['The tides in may', []],
  ['May we pass?', []],
  ['Junction buoys', []],
  ['', []],
])('tells whose a film is by its title: %s', (title, whose) => {
  expect(found(title)).toEqual(whose);
});
it('takes an address for a name, and an initial for none', () => {
  const bram = [{ name: 'B Okafor', address: 'bram@lantern-quay.example' }];
  expect(found('Plan B', bram)).toEqual([]);
  expect(found('To bram@lantern-quay.example', bram)).toEqual(['B Okafor']);
});
it('is nobody’s where nobody is known', () => {
  expect(found('For Noör', [])).toEqual([]);
});
