import { fileNameOf } from './file-name';

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
  expect(fileNameOf('x'.repeat(300), 'mp4')).toHaveLength(104);
});
