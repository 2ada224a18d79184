import { useQuery } from '@tanstack/react-query';
import { WATCH_NOTES } from '@under-chalk/core/contract/notes';
import { WATCH_WORDS } from '@under-chalk/core/contract/words';
import type { Form } from '@under-chalk/core/words/given';
import { readWordsSchema, type ReadWords } from '@under-chalk/core/words/read-cue';
import { ticketSchema, WATCH_STREAM } from '@under-chalk/core/contract/stream';
import { canBePlayed, WATCH, watchSchema, type Watch } from '@under-chalk/core/contract/watch';
import {
  ownAnswerSchema,
  replySchema,
  WATCH_ANSWERS,
  type OwnAnswer,
} from '@under-chalk/core/contract/watch-answers';
import type { Reply } from '@under-chalk/core/interaction/answer';
import { WATCH_PLAYED, type PlayedNote } from '@under-chalk/core/contract/watched';
import * as z from 'zod';
import { send } from '../../data/fetch';
import type { Given } from './ticket';

// Not by `data/client`, which knows the whole API: a student's page knows these few addresses.
const PATHS = {
  ...WATCH_ANSWERS,
  ...WATCH_PLAYED,
  ...WATCH,
  ...WATCH_NOTES,
  ...WATCH_STREAM,
  ...WATCH_WORDS,
};
const pathOf = (name: keyof typeof PATHS, token: string) =>
  PATHS[name].path.replace(':token', encodeURIComponent(token));

/** The whole film as one file. @param version {@link Watch.stream}; null where it has none */
export const filmPath = (token: string, version: string | null): string =>
  `${pathOf('watchFilm', token)}${version === null ? '' : `?version=${version}`}`;
/** The playlist of a film as it is now. @param version {@link Watch.stream} */
export const playlistPath = (token: string, version: string): string =>
  pathOf('watchStream', token).replace(':version', version);
/** Another ticket for a film's pieces. @throws AppError */
export const fetchTicket = async (token: string, version: string): Promise<Given> => {
  const path = pathOf('watchTicket', token).replace(':version', version);
  return ticketSchema.parse(await (await send(path, {})).json());
};
/** Small pictures of a film that is finished. */
export const previewsPath = (token: string, version: string): string =>
  pathOf('watchPreviews', token).replace(':version', version);
/** Where a film is saved from, or its sound alone. */
export const savePath = (token: string, form: 'mp4' | 'm4a' | 'mp3'): string =>
  pathOf('watchSave', token).replace(':form', form);
/** A material that goes along, by its place among them. */
export const materialPath = (token: string, index: number): string =>
  pathOf('watchMaterial', token).replace(':number', String(index));
export const notesPath = (token: string): string => pathOf('watchNotes', token);
export const wordsFilePath = (token: string, language: string, form: Form): string =>
  pathOf('watchWordsFile', token)
    .replace(':language', encodeURIComponent(language))
    .replace(':form', form);
/** The words of a film in a language. @throws AppError */
export const fetchWords = async (token: string, language: string): Promise<ReadWords> => {
  const path = pathOf('watchWords', token).replace(':language', encodeURIComponent(language));
  return readWordsSchema.parse(await (await send(path, {})).json());
};
/** Tells which seconds were played; goes on though the page is left. @throws AppError */
export const tellPlayed = async (token: string, note: PlayedNote): Promise<void> => {
  await send(pathOf('notePlayed', token), {
    ...{ method: 'POST', keepalive: true, headers: { 'Content-Type': 'application/json' } },
    body: JSON.stringify(note),
  });
};
/** Tells an answer. @returns what is said to it @throws AppError */
export const sendAnswer = async (token: string, body: object): Promise<Reply> =>
  replySchema.parse(
    await (
      await send(pathOf('answerInteraction', token), {
        ...{ method: 'POST', headers: { 'Content-Type': 'application/json' } },
        body: JSON.stringify(body),
      })
    ).json(),
  );
/** What was answered from this address before. @throws AppError */
export const fetchOwnAnswers = async (token: string): Promise<OwnAnswer[]> =>
  z.array(ownAnswerSchema).parse(await (await send(pathOf('ownAnswers', token), {})).json());
export const coverPath = (token: string): string => pathOf('watchCover', token);

const MAKING_MS = 1_500;
/** While the server can't be reached. */
const AGAIN_MS = 5_000;

/**
 * What a student is told of a film; asked for again as long as it can't be played. Whoever watches goes on with the film that
 * the page came with. `served`: what that was.
 */
export const useWatch = (token: string, served: Watch | undefined) =>
  useQuery({
    queryKey: ['watch', token],
    queryFn: async () => watchSchema.parse(await (await send(pathOf('watch', token), {})).json()),
    ...(served ? { initialData: served } : {}),
    staleTime: Infinity,
    retry: 1,
    refetchInterval: ({ state }) =>
      state.data
        ? ['waiting', 'making'].includes(state.data.state) && !canBePlayed(state.data)
          ? MAKING_MS
          : false
        : state.error
          ? AGAIN_MS
          : false,
  });
