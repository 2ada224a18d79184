import { firstGrants } from './first-grants';
import { ANYONE } from './grant';

const STUDENTS = [
  { id: 'student-bram', name: 'Bram Okafor', address: null },
  { id: 'student-wen', name: 'Wen Castellane', address: null },
];
const whose = (title: string) =>
  firstGrants(title, STUDENTS, ANYONE).grants.map(({ grantee }) =>
    grantee.is === 'student' ? grantee.studentId : grantee.is,
  );

it('is for those alone whom the title names, else for the others', () => {
  expect(whose('For Bram: your chart')).toEqual(['student-bram']);
  expect(whose('Charts of Wen Castellane and Bram Okafor')).toEqual([
    'student-bram',
    'student-wen',
  ]);
  expect(whose('Reading a chart')).toEqual(['anyone']);
});
