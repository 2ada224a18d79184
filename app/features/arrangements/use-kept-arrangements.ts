import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { KeptArrangement } from '@under-chalk/core/lesson/kept-arrangement';
import { call } from '../../data/client';
import { KEYS } from '../../data/queries';

/** The teacher's own arrangements, and how one is kept or let go. */
export const useKeptArrangements = () => {
  const client = useQueryClient();
  const { data = [] } = useQuery({
    queryKey: KEYS.arrangements,
    queryFn: () => call('arrangements'),
    staleTime: 60_000,
  });
  const onSuccess = (kept: readonly KeptArrangement[]) =>
    client.setQueryData(KEYS.arrangements, kept);
  const keep = useMutation({
    mutationFn: (body: KeptArrangement) => call('keepArrangement', { body }),
    onSuccess,
  });
  const forget = useMutation({
    mutationFn: (arrangementId: string) => call('forgetArrangement', { params: { arrangementId } }),
    onSuccess,
  });
  return { kept: data, keep, forget };
};
