import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import {
  pageContentSchema,
  STUDENT_PAGES,
  type PageContent,
} from '@under-chalk/core/contract/student-pages';
import { codeOf, send } from '../../data/fetch';

// Not by `data/client`, which knows the whole API.
const pathOf = (name: 'pageContent' | 'givePin', key: string) =>
  STUDENT_PAGES[name].path.replace(':key', encodeURIComponent(key));
const nameOf = (key: string) => ['pageContent', key];

/** While the server can't be reached. */
const AGAIN_MS = 5_000;
/** What a teacher puts up comes without a reload. */
const LATER_MS = 60_000;

/** What is on a student's page. `served`: what the page came with. */
export const usePageContent = (key: string, served: PageContent | undefined) =>
  useQuery({
    queryKey: nameOf(key),
    queryFn: async () =>
      pageContentSchema.parse(await (await send(pathOf('pageContent', key), {})).json()),
    ...(served ? { initialData: served } : {}),
    retry: false,
    refetchInterval: ({ state }) =>
      state.error && codeOf(state.error) === 'server-unreachable'
        ? AGAIN_MS
        : state.data
          ? LATER_MS
          : false,
  });

/** Gives the PIN that is asked for; then the page is there. */
export const useGivePin = (key: string) => {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (pin: string) => {
      const answer = await send(pathOf('givePin', key), {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ pin }),
      });
      return pageContentSchema.parse(await answer.json());
    },
    onSuccess: (pageContent) => client.setQueryData(nameOf(key), pageContent),
  });
};
