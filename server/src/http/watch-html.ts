import type { PageContent } from '@under-chalk/core/contract/student-pages';
import { pathTo } from '@under-chalk/core/contract/api';
import { canBePlayed, type Watch } from '@under-chalk/core/contract/watch';
import type { Closed } from '@under-chalk/core/share-link/closed';
import { escapedHtml } from '@under-chalk/core/text/html';
import type { MessageId, StudentText } from '../messages/student-text';

/** JSON as it may stand in a script element: nothing in it can end the element. */
const inScript = (value: unknown): string => JSON.stringify(value).replaceAll('<', '\\u003c');

const meta = (property: string, content: string): string =>
  content === '' ? '' : `<meta property="${property}" content="${escapedHtml(content)}" />`;

interface Served {
  /** The page as it was built, with comments where things go. */
  readonly template: string;
  readonly token: string;
  /** Or why there is nothing to watch. */
  readonly watch: Watch | Closed;
  /** Where browsers reach this server, as `https://chalk.example`. */
  readonly origin: string;
  readonly text: StudentText;
}

/** What stands there until the film is rendered. */
const STATES: Partial<Record<Watch['state'], MessageId>> = {
  waiting: 'page.preparing',
  making: 'page.preparing',
  failed: 'page.unavailable',
  cancelled: 'page.unavailable',
};

/** A template in the reader's language: its script takes over with the one that was chosen on the device. */
const inLanguage = (template: string, { language }: StudentText): string =>
  template.replace('<html lang="en"', `<html lang="${language}"`);

/** What stands in a frame of another page as long as there is no film for it. It needs no script. */
export const nothingHtml = (sentence: string, { language }: StudentText): string =>
  `<!doctype html><html lang="${language}"><head><meta charset="utf-8" /><title>Under Chalk</title></head><body><p>${escapedHtml(sentence)}</p></body></html>`;

/** A student's own page as it is served: whose it is can be read before any script has come, and what is on it goes along. */
export const studentPageHtml = (
  template: string,
  pageContent: PageContent | 'pin-needed' | 'no-page',
  text: StudentText,
): string => {
  const { t, problem } = text;
  const head = `<title>${escapedHtml(t('page.your-films'))} · Under Chalk</title>`;
  const words =
    typeof pageContent === 'string'
      ? [
          problem(pageContent).message,
          pageContent === 'no-page' ? problem(pageContent).hint : t('page.enter-pin'),
        ]
      : [
          pageContent.of === 'class'
            ? pageContent.name
            : t('page.films-for', { name: pageContent.name }),
          pageContent.teacherName,
        ];
  const served = `<main class="served"><h1>${escapedHtml(words[0]!)}</h1><p>${escapedHtml(words[1]!)}</p></main>`;
  const data =
    typeof pageContent === 'string'
      ? ''
      : `<script type="application/json" id="pageContent-data">${inScript(pageContent)}</script>`;
  return inLanguage(template, text)
    .replace('<!--head-->', () => head)
    .replace('<!--served-->', () => served)
    .replace('</body>', () => `${data}</body>`);
};

/**
 * A student's page as it is served: title, cover and description can be read before any script has come, and by what
 * makes previews of links (Open Graph).
 */
export const watchHtml = ({ template, token, watch, origin, text }: Served): string => {
  const { t, problem, length } = text;
  if (typeof watch === 'string') {
    // What a link leads to is a film.
    const { message, hint } = problem(watch === 'not-found' ? 'film-not-found' : watch);
    const [title, words, next] = [t('page.watch'), message, hint].map(escapedHtml);
    return inLanguage(template, text)
      .replace('<!--head-->', () => `<title>${title} · Under Chalk</title>`)
      .replace(
        '<!--served-->',
        () => `<main class="served"><h1>${words}</h1><p>${next}</p></main>`,
      );
  }
  const { title, description, teacherName, filmUs, state, stream } = watch;
  const plays = canBePlayed(watch);
  const name = title || t('page.untitled');
  const cover = pathTo('watchCover', { token });
  const head = [
    `<title>${escapedHtml(name)} · Under Chalk</title>`,
    `<meta name="description" content="${escapedHtml(description)}" />`,
    meta('og:title', name),
    meta('og:description', description),
    meta('og:type', 'video.other'),
    meta('og:site_name', 'Under Chalk'),
    meta('og:url', `${origin}/w/${token}`),
    `<link rel="alternate" type="application/json+oembed" href="${origin}${pathTo('watchOEmbed', { token })}" />`,
    ...(plays
      ? [
          meta('og:image', origin + cover),
          `<link rel="preload" as="image" href="${cover}" fetchpriority="high" />`,
        ]
      : []),
  ];
  const byline = [teacherName, length(filmUs)].filter(Boolean).join(' · ');
  const shown = plays
    ? `<img src="${cover}" alt=""${state === 'done' ? '' : ' data-making'} />`
    : `<p>${escapedHtml(STATES[state] ? t(STATES[state]) : '')}</p>`;
  const served = [
    `<main class="served"><h1>${escapedHtml(name)}</h1><p>${escapedHtml(byline)}</p>`,
    shown,
    description === '' ? '' : `<p>${escapedHtml(description)}</p>`,
    '</main>',
  ];
  const playlist = stream === null ? '' : pathTo('watchStream', { token, version: stream });
  const data = `<script type="application/json" id="watch-data" data-playlist="${playlist}">${inScript(watch)}</script>`;
  // Functions: `$` in a title is a dollar.
  return inLanguage(template, text)
    .replace('<!--head-->', () => head.join('\n    '))
    .replace('<!--served-->', () => served.join(''))
    .replace('</body>', () => `${data}</body>`);
};
