import { escapedHtml } from '../text/html';
import { formatSpoken, type Us } from '../time/us';

/** What is told of a page to programs that look for what is new. */
export interface Feed {
  readonly title: string;
  readonly author: string;
  /** Where the page is, and where the feed itself is. */
  readonly pageAddress: string;
  readonly feedAddress: string;
  readonly films: readonly FeedFilm[];
}

export interface FeedFilm {
  readonly title: string;
  readonly filmUs: Us;
  /** Where it is watched: it names it, too. */
  readonly address: string;
  readonly coverAddress: string;
  /** When it was put up, ISO 8601. */
  readonly upAt: string;
}

const newestFirst = (films: readonly FeedFilm[]): FeedFilm[] =>
  [...films].sort((a, b) => Date.parse(b.upAt) - Date.parse(a.upAt));

/** A feed as JSON (JSON Feed 1.1, jsonfeed.org/version/1.1). */
export const jsonFeed = ({ title, author, pageAddress, feedAddress, films }: Feed): object => ({
  version: 'https://jsonfeed.org/version/1.1',
  ...{ title, home_page_url: pageAddress, feed_url: feedAddress },
  ...(author === '' ? {} : { authors: [{ name: author }] }),
  items: newestFirst(films).map((film) => ({
    ...{ id: film.address, url: film.address, title: film.title },
    content_text: `${film.title}, ${formatSpoken(film.filmUs)}`,
    ...{ image: film.coverAddress, date_published: film.upAt },
  })),
});

/** A feed as Atom (RFC 4287). An empty one says that it was changed at the beginning of time. */
export const atomFeed = ({ title, author, pageAddress, feedAddress, films }: Feed): string => {
  const text = (name: string, value: string) => `<${name}>${escapedHtml(value)}</${name}>`;
  const link = (rel: string, href: string, type: string) =>
    `<link rel="${rel}" type="${type}" href="${escapedHtml(href)}"/>`;
  const all = newestFirst(films);
  const entries = all.map((film) =>
    [
      '<entry>',
      text('title', film.title),
      text('id', film.address),
      text('updated', film.upAt),
      link('alternate', film.address, 'text/html'),
      text('summary', `${film.title}, ${formatSpoken(film.filmUs)}`),
      '</entry>',
    ].join('\n'),
  );
  return [
    '<?xml version="1.0" encoding="utf-8"?>',
    '<feed xmlns="http://www.w3.org/2005/Atom">',
    text('title', title),
    text('id', pageAddress),
    text('updated', all[0]?.upAt ?? '1970-01-01T00:00:00.000Z'),
    `<author>${text('name', author || title)}</author>`,
    link('self', feedAddress, 'application/atom+xml'),
    link('alternate', pageAddress, 'text/html'),
    ...entries,
    '</feed>\n',
  ].join('\n');
};
