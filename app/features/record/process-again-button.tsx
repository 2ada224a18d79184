import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { Take } from '@under-chalk/core/lesson/take';
import { errorText } from '@under-chalk/core/errors/errors';
import { call, codeOf } from '../../data/client';
import { KEYS } from '../../data/queries';
import { Button } from '../../ui/button';
import { Words } from '../../ui/text';
import { useThisLesson } from '../lessons/lesson-layout';

/** Stops processing a take of this lesson, or processes it again. */
export const useProcessAgain = (doing: 'cancelTake' | 'processTake') => {
  const client = useQueryClient();
  const { lesson } = useThisLesson();
  return useMutation({
    mutationFn: (takeId: string) => call(doing, { params: { takeId } }),
    onSettled: () => client.invalidateQueries({ queryKey: KEYS.lesson(lesson.id) }),
  });
};

const WORDS = {
  cancelTake: { label: 'Stop', spoken: (name: string) => `Stop processing ${name}` },
  processTake: { label: 'Process again', spoken: (name: string) => `Process ${name} again` },
} as const;

interface Props {
  readonly take: Take;
  readonly name: string;
  readonly doing: keyof typeof WORDS;
}

export const ProcessAgainButton = ({ take, name, doing }: Props) => {
  const press = useProcessAgain(doing);
  return (
    <>
      <Button
        small
        label={WORDS[doing].label}
        spoken={WORDS[doing].spoken(name)}
        disabled={press.isPending}
        onPress={() => press.mutate(take.id)}
      />
      {press.error ? (
        <Words size="small" tone="bad" role="status">
          {errorText(codeOf(press.error)).message}
        </Words>
      ) : null}
    </>
  );
};
