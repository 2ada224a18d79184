import { ERRORS, isErrorCode, errorText, AppError } from '../errors/errors';
import { ENDPOINTS, pathTo } from './api';
import type { Endpoint } from './endpoint';
import { newEntriesSchema } from './lessons';

describe('endpoints', () => {
  it('have a path and a method of their own', () => {
    const all = Object.values<Endpoint>(ENDPOINTS).map(({ method, path }) => `${method} ${path}`);
    expect(new Set(all).size).toBe(all.length);
  });
  it('check exactly the parameters their path has', () => {
    for (const { path, params } of Object.values<Endpoint>(ENDPOINTS)) {
      const named = [...path.matchAll(/:(\w+)/g)].map((match) => match[1]);
      expect(Object.keys(params?.shape ?? {})).toEqual(named);
    }
  });
  it('answer with either JSON or a file', () => {
    for (const { answer, file } of Object.values<Endpoint>(ENDPOINTS)) {
      expect([answer === undefined, file === undefined].filter(Boolean)).toHaveLength(1);
    }
  });
  it('are open only where a stranger has business', () => {
    const open = Object.entries<Endpoint>(ENDPOINTS)
      .filter(([, endpoint]) => endpoint.from)
      .map(([name]) => name);
    expect(open.sort()).toEqual(
      [
        'givePin',
        'health',
        'session',
        'setUp',
        'pageContent',
        'pageContentFeed',
        'signIn',
        'watch',
        'watchCover',
        'watchFilm',
        'watchHead',
        'watchMaterial',
        'watchNotes',
        'watchOEmbed',
        'watchPreviews',
        'watchSave',
        'watchSegment',
        'watchStream',
        'watchTicket',
        'watchTrack',
        'watchWords',
        'answerInteraction',
        'notePlayed',
        'ownAnswers',
        ...['submit', 'ownSubmission', 'announceSubmissionFile', 'submissionFileCame'],
        'watchDescribedFile',
        'watchWordsFile',
      ].sort(),
    );
  });
});

describe('pathTo', () => {
  it('fills in and escapes', () => {
    expect(pathTo('lesson', { lessonId: 'lesson-1' })).toBe('/api/lessons/lesson-1');
    expect(pathTo('lesson', { lessonId: '../../x y' })).toBe('/api/lessons/..%2F..%2Fx%20y');
    expect(pathTo('lessons')).toBe('/api/lessons');
  });
  it('will not leave a hole', () =>
    expect(() => pathTo('lesson', {} as never)).toThrow('lesson needs lessonId'));
});

describe('a lesson archive of edits', () => {
  const parse = (body: unknown) => newEntriesSchema.safeParse(body).success;
  it('is refused when it is empty, endless or not of ours', () => {
    const undo = {
      id: 'entry-one',
      by: 'teacher',
      edit: { do: 'undo', entries: ['entry-two'] },
    };
    expect(parse({ baseRevision: 0, entries: [undo] })).toBe(true);
    expect(parse({ baseRevision: 0, entries: [] })).toBe(false);
    expect(parse({ baseRevision: -1, entries: [undo] })).toBe(false);
    expect(parse({ baseRevision: 0, entries: Array(201).fill(undo) })).toBe(false);
    expect(parse({ baseRevision: 0, entries: [{ do: 'format-disk' }] })).toBe(false);
  });
});

describe('errors', () => {
  it('each have a sentence and what to do next, ended by a full stop', () => {
    for (const [code, { message, hint }] of Object.entries(ERRORS)) {
      expect([code, message.endsWith('.'), hint.endsWith('.')]).toEqual([code, true, true]);
    }
  });
  it('are told even when the code is not known', () => {
    expect(isErrorCode('toString')).toBe(false);
    expect(errorText('who-knows')).toBe(ERRORS.unexpected);
  });
  it('carry their code and keep the detail for the log', () => {
    const error = new AppError('disk-full', 'ENOSPC on chunk');
    expect(error.code).toBe('disk-full');
    expect(error.message).toBe('disk-full: ENOSPC on chunk');
  });
});
