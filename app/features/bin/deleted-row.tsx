import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { BIN_DAYS, type BinKind } from '@under-chalk/core/contract/bin';
import { call, codeOf } from '../../data/client';
import { Button } from '../../ui/button';
import { useFocusWhen } from '../../ui/focus';
import { Notice, ProblemNotice } from '../../ui/notice';

/** What is being thrown away, and what it is called. */
export interface Gone {
  readonly kind: BinKind;
  readonly id: string;
  readonly name: string;
}

/** Throws something away as soon as it is there, says so, and has the way back for as long as the page is open. */
export const DeletedRow = ({ gone, onBack }: { gone: Gone; onBack: () => void }) => {
  const client = useQueryClient();
  const { kind, id, name } = gone;
  const refetch = { onSettled: () => client.invalidateQueries() };
  const away = useMutation({
    mutationFn: () => call('moveToBin', { params: { kind, id } }),
    ...refetch,
  });
  const back = useMutation({
    mutationFn: () => call('restoreFromBin', { params: { kind, id } }),
    onSuccess: onBack,
    ...refetch,
  });
  const { mutate } = away;
  useEffect(() => mutate(), [mutate, kind, id]);
  const button = useFocusWhen(away.isSuccess);
  const error = away.error ?? back.error;
  if (error) {
    return (
      <ProblemNotice code={codeOf(error)}>
        <Button small label="Close" onPress={onBack} />
      </ProblemNotice>
    );
  }
  if (!away.isSuccess) return null;
  return (
    <Notice
      title={`${name} is in the bin.`}
      text={`It stays there for ${BIN_DAYS} days; then it goes for good.`}
    >
      <Button
        small
        ref={button}
        label="Restore"
        spoken={`Bring ${name} back`}
        disabled={back.isPending}
        onPress={() => back.mutate()}
      />
    </Notice>
  );
};
