import { unitFilmPage, unitFolder, unitIndex, unitWords, type UnitFilm } from './unit-package';

const LABELS = {
  chapters: 'Chapters',
  transcript: 'Transcript',
  transcriptIn: (language: string) => `Transcript, ${language}`,
  boardPages: 'Board pages',
};

const film = (title: string, more: Partial<UnitFilm> = {}): UnitFilm => ({
  ...{ title, description: 'Before you set out.', spoken: 'en', filmUs: 125_000_000 },
  chapters: [
    { title: 'Spring & neap', startUs: 0 },
    { title: 'The table', startUs: 61_500_000 },
  ] as unknown as UnitFilm['chapters'],
  captions: [
    {
      language: 'en',
      cues: [{ startUs: 0, endUs: 2_000_000, text: '100 % of “springs” & <neaps>' }],
    },
  ] as unknown as UnitFilm['captions'],
  ...{ described: [], hasPages: false },
  ...more,
});
const unit = (...films: UnitFilm[]) => ({
  ...{ name: 'Week 3 <tides>', className: 'Coastal skippers', teacherName: 'Maren', films },
});

it('leads to each film by a folder of its own, in order', () => {
  const made = unit(film('Reading a tide table?'), film('Set/and drift'));
  expect(unitFolder(made.films, 0)).toBe('01 Reading a tide table');
  expect(unitFolder(made.films, 1)).toBe('02 Set and drift');
  const page = unitIndex(made);
  expect(page).toContain('<h1>Week 3 &lt;tides&gt;</h1>');
  expect(page).toContain('href="01%20Reading%20a%20tide%20table/index.html"');
  expect(unitIndex(unit(film('Set #2, 50 %')))).toContain('href="01%20Set%20%232%2C%2050%20%25/');
  expect(page.indexOf('01%20')).toBeLessThan(page.indexOf('02%20'));
  expect(page).toContain('2:05');
});

it('has a page with captions in it, chapters, and what goes along, and asks for nothing from elsewhere', () => {
  const plain = film('Reading a tide table');
  const page = unitFilmPage(unit(plain), plain, true, LABELS);
  expect(page).toContain('data-at="61.5">1:01 The table');
  expect(page).toContain('Spring &amp; neap');
  const [, data] = /<track [^>]*src="data:text\/vtt;charset=utf-8,([^"]+)"/.exec(page) ?? [];
  expect(decodeURIComponent(data!.replaceAll('&#39;', "'"))).toContain('100 % of “springs”');
  expect(page).not.toMatch(/(src|href)="(https?:)?\/\//);
  expect(page).toContain('href="../index.html"');
  expect(page).not.toContain('board.pdf');
  const withPages = film('x', { hasPages: true });
  expect(unitFilmPage(unit(plain), withPages, false, LABELS)).toContain('board.pdf');
  expect(unitFilmPage(unit(plain), plain, false, LABELS)).not.toContain('../index.html');
  expect(page).toContain('href="transcript%20en.html"');
});

it('has its words in files of their own', () => {
  const files = unitWords(film('Reading a tide table'));
  expect(files.map(({ name }) => name)).toEqual(['captions en.vtt', 'transcript en.html']);
  expect(files[0]!.text).toMatch(/^WEBVTT/);
  expect(unitWords(film('x', { captions: [] }))).toEqual([]);
});
