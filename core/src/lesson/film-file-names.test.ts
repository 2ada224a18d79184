import { filmFileNames, type NamedFilm } from './film-file-names';

const PLAN = { title: 'Tides: high & low', className: 'Coastal navigation', unit: 'Week 4' };
const film = (id: string, size: NamedFilm['size'] = '720p') => ({ id, size });
const names = (...films: NamedFilm[]) => [...filmFileNames(PLAN, films).values()];

it('names the newest film like its lesson, and adds size or age to the others', () => {
  const base = 'Tides high & low - Coastal navigation - Week 4';
  expect(names()).toEqual([]);
  expect(names(film('one'))).toEqual([`${base}.mp4`]);
  expect(
    names(film('five'), film('four', '1080p'), film('three'), film('two', '1080p'), film('one')),
  ).toEqual([
    ...[`${base}.mp4`, `${base} 1080p.mp4`, `${base} (earlier).mp4`],
    ...[`${base} 1080p (earlier).mp4`, `${base} (earlier 2).mp4`],
  ]);
});

it('keeps names apart that are as long as a file’s may be', () => {
  const films = [film('two'), film('one')];
  const long = { ...PLAN, title: 'a'.repeat(400) };
  const all = [...filmFileNames(long, films).values()];
  expect(new Set(all).size).toBe(2);
  for (const name of all) expect(Buffer.byteLength(name)).toBeLessThan(232);
});
