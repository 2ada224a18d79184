import { TellableError } from '@under-chalk/core/errors/errors';
import { filmOf } from '@under-chalk/core/film/film';
import { inkmlOf } from '@under-chalk/core/ink/inkml';
import { notesOf, type NotesPage } from '@under-chalk/core/ink/notes';
import { svgOf } from '@under-chalk/core/ink/svg';
import { takeOf, type Lesson } from '@under-chalk/core/lesson/lesson';
import type { Us } from '@under-chalk/core/time/us';
import { PieceCache } from '@under-chalk/render';
import type { MediaStore } from '../../store/media-store';
import { inkOfFilm } from '../ink-of';
import { writeNotesPdf } from './notes-pdf';

/** What is written on the boards of lessons, for other programs and for students to keep. */
export class Notes {
  readonly #media: MediaStore;
  readonly #cache: PieceCache;
  readonly #fontFile: string | null;

  constructor(media: MediaStore, folder: string, fontFile: string | null) {
    this.#media = media;
    this.#cache = new PieceCache(folder);
    this.#fontFile = fontFile;
  }

  /** The pages that the film of a lesson shows, as they are left. */
  async pagesOf(lesson: Lesson): Promise<NotesPage[]> {
    const film = filmOf(lesson);
    return notesOf(film, await inkOfFilm(film, this.#media));
  }

  /**
   * These pages as PDF.
   *
   * @param name names what it is made of: it is made once
   * @param linkTo the address at which the film plays from a time; null where it isn't handed out
   * @returns its path
   * @throws TellableError `not-found` where nothing was written
   */
  pdf(
    name: string,
    lessonOf: () => Promise<Lesson>,
    author: string,
    linkTo: ((filmUs: Us) => string) | null,
  ): Promise<string> {
    return this.#cache.obtain(this.#cache.pathOf(`notes 1 ${name}`, 'pdf'), async (draft) => {
      const lesson = await lessonOf();
      const pages = await this.pagesOf(lesson);
      if (pages.length === 0) throw new TellableError('not-found', 'nothing was written');
      const { title } = lesson.decisions.plan;
      await writeNotesPdf({ title, author, pages, linkTo, fontFile: this.#fontFile }, draft);
    });
  }

  /** One of these pages as SVG. @param number from 1 @throws TellableError `not-found` */
  async svg(lesson: Lesson, number: number): Promise<string> {
    const page = (await this.pagesOf(lesson))[number - 1];
    if (!page) throw new TellableError('not-found', `page ${number}`);
    return svgOf(page.page, `${lesson.decisions.plan.title} · page ${number}`);
  }

  /** What is written on a take, as the lesson has it, as InkML. @throws TellableError `not-found` */
  async inkml(lesson: Lesson, takeId: string): Promise<string> {
    const take = takeOf(lesson, takeId);
    const film = filmOf(lesson);
    const inkOf = await inkOfFilm(film, this.#media);
    const track = take && inkOf(takeId);
    if (!track) throw new TellableError('not-found', 'nothing was written');
    return inkmlOf(track);
  }
}
