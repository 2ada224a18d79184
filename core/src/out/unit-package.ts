import type { Chapter } from '../film/chapters';
import { fileNameOf } from '../lesson/file-name';
import { escapedHtml } from '../text/html';
import type { Us } from '../time/us';
import type { ReadDescription } from '../words/audio-description';
import { FORMS, wordsAs } from '../words/given';
import { languageName } from '../words/language';
import type { ReadWords } from '../words/read-cue';
import { clockOf, filmPage, pageHead, type PageLabels } from './film-page';

/** A film among those of a unit. */
export interface UnitFilm {
  readonly title: string;
  readonly description: string;
  /** The language that is spoken (BCP 47). */
  readonly spoken: string;
  readonly filmUs: Us;
  readonly chapters: readonly Chapter[];
  readonly captions: readonly ReadWords[];
  readonly described: readonly ReadDescription[];
  /** Pages of its board go along. */
  readonly hasPages: boolean;
}

/**
 * The films of a unit as pages that open anywhere and ask for nothing from elsewhere: from a stick, a shared folder, or a course site that
 * takes only files.
 */
export interface UnitPackage {
  /** Of the unit, and of the class. */
  readonly name: string;
  readonly className: string;
  readonly teacherName: string;
  readonly films: readonly UnitFilm[];
}

/** What the files of a film are called, in a folder of its own. */
export const UNIT_FILES = {
  page: 'index.html',
  film: 'film.mp4',
  cover: 'cover.jpg',
  pages: 'board.pdf',
} as const;

/** The folder of a film: its number in the unit, and its title. @param at from 0 */
export const unitFolder = (films: readonly UnitFilm[], at: number): string => {
  const digits = String(films.length).length;
  const number = String(at + 1).padStart(Math.max(2, digits), '0');
  return fileNameOf(`${number} ${films[at]!.title}`, '').slice(0, -1);
};

const transcriptName = (language: string) => `transcript ${language}.html`;

/** Files of words that lie beside a film. */
export const unitWords = (film: UnitFilm): { readonly name: string; readonly text: string }[] =>
  film.captions.flatMap((words) => {
    const described = words.language === film.spoken ? film.described : [];
    const about = { title: film.title, chapters: film.chapters, described };
    return [
      { name: `captions ${words.language}.vtt`, text: wordsAs('vtt', words, about) },
      { name: transcriptName(words.language), text: wordsAs('html', words, about) },
    ];
  });

/** Chapters are jumped to. */
const JUMPS =
  '<script>for(const b of document.querySelectorAll("button[data-at]"))b.onclick=()=>{const v=document.querySelector("video");v.currentTime=+b.dataset.at;v.play()}</script>';

/** The address of a file by its name: whatever the name has, it leads there (RFC 3986). */
export const hrefOf = (name: string): string => name.split('/').map(encodeURIComponent).join('/');

const link = (href: string, name: string) =>
  `<a href="${escapedHtml(hrefOf(href))}">${escapedHtml(name)}</a>`;

/**
 * The page of one of the films. Its captions are in it: a page that is opened from a disk may read no file beside it.
 *
 * @param leadsBack to the page that leads to them all
 */
export const unitFilmPage = (
  { name, teacherName }: UnitPackage,
  film: UnitFilm,
  leadsBack: boolean,
  labels: PageLabels,
): string =>
  filmPage({
    ...{ title: film.title, description: film.description, teacherName },
    ...{ language: film.spoken, chapters: film.chapters },
    ...{ film: UNIT_FILES.film, cover: UNIT_FILES.cover },
    captions: film.captions.map((words) => ({
      language: words.language,
      src: `data:${FORMS.vtt};charset=utf-8,${encodeURIComponent(wordsAs('vtt', words, film))}`,
    })),
    before: leadsBack ? [link('../index.html', name)] : [],
    after: [
      '<p>',
      ...film.captions.map(({ language }) =>
        link(
          transcriptName(language),
          film.captions.length > 1
            ? labels.transcriptIn(languageName(language, language))
            : labels.transcript,
        ),
      ),
      ...(film.hasPages ? [link(UNIT_FILES.pages, labels.boardPages)] : []),
      '</p>',
    ],
    labels,
    script: JUMPS,
  });

/** The page that leads to them all. */
export const unitIndex = (unit: UnitPackage): string => {
  const { name, className, teacherName, films } = unit;
  const language = films[0]?.spoken ?? 'en';
  return [
    ...pageHead(name, language),
    `<body><main><h1>${escapedHtml(name)}</h1>`,
    `<p class="soft">${escapedHtml([className, teacherName].filter(Boolean).join(' · '))}</p><ol>`,
    ...films.map(
      (film, at) =>
        `<li>${link(`${unitFolder(films, at)}/${UNIT_FILES.page}`, film.title)} <span class="soft">${clockOf(film.filmUs)}</span></li>`,
    ),
    '</ol></main></body></html>',
    '',
  ].join('\n');
};
