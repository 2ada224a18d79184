import { JSDOM } from 'jsdom';
import { atomFeed, jsonFeed, type Feed } from './feed';

const film = (title: string, upAt: string) => ({
  ...{ title, upAt, filmUs: 61_000_000 },
  address: `https://chalk.example/w/${title.length}?a=1&b=2`,
  coverAddress: 'https://chalk.example/cover.jpg',
});
const FEED: Feed = {
  title: 'Coastal navigation',
  author: 'Ottilie Marsh',
  pageAddress: 'https://chalk.example/s/key',
  feedAddress: 'https://chalk.example/api/page/key/feed.atom',
  films: [
    film('Tides & <b>heights</b>', '2026-11-02T08:00:00.000Z'),
    film('Set and drift', '2026-11-09T08:00:00.000Z'),
  ],
};
/** @throws SyntaxError for what is no XML */
const read = (xml: string) => new JSDOM(xml, { contentType: 'application/xml' }).window.document;
const texts = (of: { querySelectorAll: Document['querySelectorAll'] }, name: string) =>
  [...of.querySelectorAll(name)].map(({ textContent }) => textContent);

it('is Atom with all that it must have, newest first', () => {
  const feed = read(atomFeed(FEED)).documentElement;
  expect([feed.namespaceURI, feed.localName]).toEqual(['http://www.w3.org/2005/Atom', 'feed']);
  expect(texts(feed, ':scope > title')).toEqual(['Coastal navigation']);
  expect(texts(feed, ':scope > id')).toEqual(['https://chalk.example/s/key']);
  expect(texts(feed, ':scope > updated')).toEqual(['2026-11-09T08:00:00.000Z']);
  expect(texts(feed, 'author name')).toEqual(['Ottilie Marsh']);
  expect(feed.querySelector('link[rel=self]')?.getAttribute('href')).toBe(FEED.feedAddress);
  const entries = [...feed.querySelectorAll('entry')];
  expect(entries.map((entry) => texts(entry, 'title')[0])).toEqual([
    'Set and drift',
    'Tides & <b>heights</b>',
  ]);
  for (const entry of entries)
    for (const name of ['id', 'updated', 'title']) expect(texts(entry, name)).toHaveLength(1);
  expect(entries[1]!.querySelector('link')?.getAttribute('href')).toBe(FEED.films[0]!.address);
});

it('is Atom also where there is nothing, and nobody', () => {
  const feed = read(atomFeed({ ...FEED, author: '', films: [] }));
  expect(texts(feed, 'updated')).toEqual(['1970-01-01T00:00:00.000Z']);
  expect(texts(feed, 'author name')).toEqual(['Coastal navigation']);
});

it('is JSON Feed 1.1', () => {
  expect(jsonFeed({ ...FEED, films: FEED.films.slice(0, 1) })).toEqual({
    version: 'https://jsonfeed.org/version/1.1',
    title: 'Coastal navigation',
    home_page_url: FEED.pageAddress,
    feed_url: FEED.feedAddress,
    authors: [{ name: 'Ottilie Marsh' }],
    items: [
      {
        ...{ id: FEED.films[0]!.address, url: FEED.films[0]!.address },
        title: 'Tides & <b>heights</b>',
        content_text: 'Tides & <b>heights</b>, 1 min 1 s',
        image: 'https://chalk.example/cover.jpg',
        date_published: '2026-11-02T08:00:00.000Z',
      },
    ],
  });
  expect(jsonFeed({ ...FEED, author: '' })).not.toHaveProperty('authors');
});
