import { useQuery } from '@tanstack/react-query';
import { WATCH_NOTES } from '@under-chalk/core/contract/notes';
import { WATCH_WORDS } from '@under-chalk/core/contract/words';
import type { Form } from '@under-chalk/core/words/given';
import { readWordsSchema, type ReadWords } from '@under-chalk/core/words/read-cue';
import { WATCH, watchSchema, type Watch } from '@under-chalk/core/contract/watch';
import { send } from '../../data/fetch';

// Not by `data/client`, which knows the whole API: a student's page knows these few addresses.
const PATHS = { ...WATCH, ...WATCH_NOTES, ...WATCH_WORDS };
const pathOf = (name: keyof typeof PATHS, token: string) =>
  PATHS[name].path.replace(':token', encodeURIComponent(token));

export const filmPath = (token: string): string => pathOf('watchFilm', token);
export const notesPath = (token: string): string => pathOf('watchNotes', token);
export const wordsFilePath = (token: string, language: string, form: Form): string =>
  pathOf('watchWordsFile', token)
    .replace(':language', encodeURIComponent(language))
    .replace(':form', form);
/** The words of a film in a language. @throws TellableError */
export const fetchWords = async (token: string, language: string): Promise<ReadWords> => {
  const path = pathOf('watchWords', token).replace(':language', encodeURIComponent(language));
  return readWordsSchema.parse(await (await send(path, {})).json());
};
export const coverPath = (token: string): string => pathOf('watchCover', token);

const MAKING_MS = 1_500;
/** While the server can't be reached. */
const AGAIN_MS = 5_000;

/** What a student is told of a film; asked for again while it is being made. `served`: what the page came with. */
export const useWatch = (token: string, served: Watch | undefined) =>
  useQuery({
    queryKey: ['watch', token],
    queryFn: async () => watchSchema.parse(await (await send(pathOf('watch', token), {})).json()),
    ...(served ? { initialData: served, staleTime: 60_000 } : {}),
    retry: 1,
    refetchInterval: ({ state }) =>
      state.data
        ? ['waiting', 'making'].includes(state.data.state)
          ? MAKING_MS
          : false
        : state.error
          ? AGAIN_MS
          : false,
  });
