import { fileNameOf, lessonFileName } from './file-name';

it('names a film by its goal', () =>
  expect(fileNameOf('Tide heights by the rule of twelfths', 'mp4')).toBe(
    'Tide heights by the rule of twelfths.mp4',
  ));
it('takes out what a file system would refuse', () => {
  expect(fileNameOf('Why 1/12? A "rule": ../etc', 'mp4')).toBe('Why 1 12 A rule .. etc.mp4');
  expect(fileNameOf('..hidden..', 'mp4')).toBe('hidden.mp4');
});
it('never comes out empty or reserved', () => {
  expect(fileNameOf('  ', 'mp4')).toBe('Lesson.mp4');
  expect(fileNameOf('CON', 'mp4')).toBe('Lesson.mp4');
  expect(fileNameOf('x'.repeat(300), 'mp4')).toHaveLength(204);
  // Of a script with three bytes a sign.
  const long = fileNameOf('潮'.repeat(140), 'mp4');
  expect(new TextEncoder().encode(long).length).toBeLessThanOrEqual(204);
  expect(long).toBe(`${'潮'.repeat(66)}.mp4`);
});
it('names what is made of a lesson by goal, class and week', () => {
  const plan = { title: 'Tide heights', className: 'Navigation: beginners', unit: 'Week 5' };
  expect(lessonFileName(plan, 'mp4')).toBe('Tide heights - Navigation beginners - Week 5.mp4');
  expect(lessonFileName({ ...plan, className: '', unit: '' }, 'pdf')).toBe('Tide heights.pdf');
  expect(lessonFileName({ title: '', className: '', unit: '' }, 'zip')).toBe('Lesson.zip');
});
