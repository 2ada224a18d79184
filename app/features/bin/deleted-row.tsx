import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { BIN_DAYS, type BinKind } from '@under-chalk/core/contract/bin';
import { call, codeOf } from '../../data/client';
import { useTeacherText } from '../../messages/use-text';
import { Button } from '../../ui/button';
import { useFocusWhen } from '../../ui/focus';
import { Notice, ProblemNotice } from '../../ui/notice';

/** What is being deleted, and what it is called. */
export interface Gone {
  readonly kind: BinKind;
  readonly id: string;
  readonly name: string;
}

/** Moves something to the bin when it is mounted, says so, and offers to restore it while the page is open. */
export const DeletedRow = ({ gone, onBack }: { gone: Gone; onBack: () => void }) => {
  const client = useQueryClient();
  const { t } = useTeacherText();
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
        <Button small label={t('bin.close')} onPress={onBack} />
      </ProblemNotice>
    );
  }
  if (!away.isSuccess) return null;
  return (
    <Notice title={t('bin.moved', { name })} text={t('bin.movedHelp', { days: BIN_DAYS })}>
      <Button
        small
        ref={button}
        label={t('bin.restore')}
        spoken={t('bin.restoreIt', { name })}
        disabled={back.isPending}
        onPress={() => back.mutate()}
      />
    </Notice>
  );
};
