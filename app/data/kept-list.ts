import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';

/** How a short list of the teacher's own is fetched and changed; each change answers with the list. */
interface KeptCalls<T> {
  readonly key: readonly string[];
  readonly all: () => Promise<readonly T[]>;
  readonly keep: (kept: T) => Promise<readonly T[]>;
  readonly forget: (id: string) => Promise<readonly T[]>;
}

/** A short list of the teacher's own, and how something is kept in it or let go. */
export const useKeptList = <T>({ key, all, keep, forget }: KeptCalls<T>) => {
  const client = useQueryClient();
  const { data = [] } = useQuery({ queryKey: key, queryFn: all, staleTime: 60_000 });
  const onSuccess = (kept: readonly T[]) => client.setQueryData(key, kept);
  return {
    kept: data,
    keep: useMutation({ mutationFn: keep, onSuccess }),
    forget: useMutation({ mutationFn: forget, onSuccess }),
  };
};
