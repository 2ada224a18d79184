import type { Chapter } from '../film/chapters';
import { escapedHtml } from '../text/html';
import type { Us } from '../time/us';
import { languageName } from '../words/language';

/** What stands on pages of films besides what the teacher wrote, in the reader's language. */
export interface PageLabels {
  readonly chapters: string;
  readonly transcript: string;
  /** Of several: in which language, by its own name. */
  readonly transcriptIn: (language: string) => string;
  readonly boardPages: string;
}

/** A page of a film that needs nothing from elsewhere. */
export interface FilmPage {
  readonly title: string;
  readonly description: string;
  readonly teacherName: string;
  /** The language that is spoken (BCP 47). */
  readonly language: string;
  readonly chapters: readonly Chapter[];
  /** Where the film and its cover are. */
  readonly film: string;
  readonly cover: string;
  /** Its captions: where they are (WebVTT), or themselves, as a `data:` address. */
  readonly captions: readonly { readonly language: string; readonly src: string }[];
  /** What its program is told, as `data-` attributes of the film. */
  readonly data?: Readonly<Record<string, string>>;
  /** What stands before and after the film, as HTML. */
  readonly before?: readonly string[];
  readonly after?: readonly string[];
  readonly labels: Pick<PageLabels, 'chapters'>;
  /** Its program, as HTML: chapters are buttons with `data-at`, seconds. */
  readonly script: string;
}

const PAGE_STYLE =
  'body{margin:0;background:#f5f1e6;color:#232c31;font:1.05rem/1.5 "Atkinson Hyperlegible",system-ui,sans-serif}main{max-width:60rem;margin:0 auto;padding:1rem}h1{font-size:1.5rem;margin:.2rem 0}video{width:100%;max-height:75vh;background:#20292f;border-radius:8px}ol{list-style:none;margin:.5rem 0;padding:0}button,a{font:inherit;background:none;border:0;padding:.6rem .4rem;min-height:44px;color:#1d5a63;text-align:start;cursor:pointer}a{display:inline-block;box-sizing:border-box}button:focus-visible,a:focus-visible,video:focus-visible{outline:3px solid #e2ad3a}.soft{color:#5c6568}';

/** A length, as `3:05`. */
export const clockOf = (us: Us): string =>
  `${Math.floor(us / 60e6)}:${String(Math.floor(us / 1e6) % 60).padStart(2, '0')}`;

/** The head of a page, up to where its content begins. */
export const pageHead = (title: string, language: string): string[] => [
  '<!doctype html>',
  `<html lang="${escapedHtml(language)}">`,
  '<head><meta charset="utf-8" /><meta name="viewport" content="width=device-width" />',
  `<title>${escapedHtml(title)}</title><style>${PAGE_STYLE}</style></head>`,
];

/** The page of a film: the film with its captions, and its chapters to jump to. */
export const filmPage = (page: FilmPage): string => {
  const { title, description, teacherName, language, chapters, captions, film, cover } = page;
  const { data = {}, before = [], after = [], labels, script } = page;
  const tracks = captions.map(
    ({ language: one, src }) =>
      `<track kind="captions" srclang="${escapedHtml(one)}" label="${escapedHtml(languageName(one, one))}" src="${escapedHtml(src)}" />`,
  );
  const jumps = chapters.map(
    ({ title: name, startUs }) =>
      `<li><button type="button" data-at="${startUs / 1e6}">${clockOf(startUs)} ${escapedHtml(name)}</button></li>`,
  );
  const told = Object.entries(data).map(([name, value]) => ` data-${name}="${escapedHtml(value)}"`);
  return [
    ...pageHead(title, language),
    `<body><main>${before.join('')}<h1>${escapedHtml(title)}</h1>`,
    ...(teacherName === '' ? [] : [`<p class="soft">${escapedHtml(teacherName)}</p>`]),
    `<video controls playsinline preload="metadata" poster="${escapedHtml(cover)}" src="${escapedHtml(film)}" aria-label="${escapedHtml(title)}"${told.join('')}>`,
    ...tracks,
    '</video>',
    ...after,
    ...(description === '' ? [] : [`<p>${escapedHtml(description)}</p>`]),
    ...(jumps.length > 1
      ? [`<ol aria-label="${escapedHtml(labels.chapters)}">`, ...jumps, '</ol>']
      : []),
    `</main>${script}</body></html>`,
    '',
  ].join('\n');
};
