import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { shelfSchema, STUDENT_PAGES, type Shelf } from '@under-chalk/core/contract/student-pages';
import { codeOf, send } from '../../data/fetch';

// Not by `data/client`, which knows the whole API.
const pathOf = (name: 'shelf' | 'giveNumber', key: string) =>
  STUDENT_PAGES[name].path.replace(':key', encodeURIComponent(key));
const nameOf = (key: string) => ['shelf', key];

/** While the server can't be reached. */
const AGAIN_MS = 5_000;
/** What a teacher puts up comes without a reload. */
const LATER_MS = 60_000;

/** What is on a student's page. `served`: what the page came with. */
export const useShelf = (key: string, served: Shelf | undefined) =>
  useQuery({
    queryKey: nameOf(key),
    queryFn: async () => shelfSchema.parse(await (await send(pathOf('shelf', key), {})).json()),
    ...(served ? { initialData: served } : {}),
    retry: false,
    refetchInterval: ({ state }) =>
      state.error && codeOf(state.error) === 'server-unreachable'
        ? AGAIN_MS
        : state.data
          ? LATER_MS
          : false,
  });

/** Tells the number that is asked for; then the page is there. */
export const useGiveNumber = (key: string) => {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (number: string) => {
      const answer = await send(pathOf('giveNumber', key), {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ number }),
      });
      return shelfSchema.parse(await answer.json());
    },
    onSuccess: (shelf) => client.setQueryData(nameOf(key), shelf),
  });
};
