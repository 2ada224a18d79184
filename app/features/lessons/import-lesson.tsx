import { useQueryClient } from '@tanstack/react-query';
import { useRouter, type Href } from 'expo-router';
import { useRef, useState } from 'react';
import { View } from 'react-native';
import type { LessonImport } from '@under-chalk/core/contract/lesson-archives';
import { newId } from '../../capture/new-id';
import { NOT_SENT, sendFile, whyNotSent, type Sending } from '../../capture/sending/send-file';
import { call, codeOf } from '../../data/client';
import { KEYS } from '../../data/queries';
import { Button } from '../../ui/button';
import { FileInput } from '../../ui/file-input';
import { ProblemNotice } from '../../ui/notice';
import { ProgressLine } from '../../ui/progress-line';
import { SPACE } from '../../ui/theme';
import { SendingLine } from './sending-line';

type State =
  | { readonly is: 'idle' }
  | ({ readonly is: 'sending' } & Sending)
  | { readonly is: 'opening'; readonly done: number }
  | { readonly is: 'failed'; readonly code: string };

/** How often it is asked how far the server is, ms. */
const ASK_MS = 500;

/** Brings a lesson in that was saved as an archive, here or elsewhere. */
export const ImportLesson = () => {
  const client = useQueryClient();
  const router = useRouter();
  const input = useRef<HTMLInputElement>(null);
  const [state, setState] = useState<State>({ is: 'idle' });

  /** Asks until it is known what became of it; while the server is away it is waited for. */
  const opened = async (importId: string): Promise<LessonImport> => {
    for (;;) {
      const now = await call('importLesson', { params: { importId } }).catch((error: unknown) => {
        if (codeOf(error) !== 'server-unreachable') throw error;
        return null;
      });
      if (now && now.state !== 'opening') return now;
      if (now) setState({ is: 'opening', done: now.done });
      await new Promise((resolve) => setTimeout(resolve, ASK_MS));
    }
  };
  const bring = async (file: File) => {
    if (file.size === 0) return setState({ is: 'failed', code: 'file-empty' });
    setState({ is: 'sending', ...NOT_SENT });
    const id = newId();
    try {
      await call('newLessonImport', { body: { id } });
      await sendFile(file, id, (sending) => setState({ is: 'sending', ...sending }));
      const { lessonId, problem } = await opened(id);
      if (lessonId === null) return setState({ is: 'failed', code: problem ?? 'unexpected' });
      setState({ is: 'idle' });
      void client.invalidateQueries({ queryKey: KEYS.lessons });
      router.push(`/lessons/${lessonId}/tidy` as Href);
    } catch (error) {
      setState({ is: 'failed', code: whyNotSent(error) });
    }
  };

  return (
    <View style={{ gap: SPACE.small, alignItems: 'flex-start', maxWidth: '100%' }}>
      <FileInput
        ref={input}
        label="Archive of a lesson"
        accept=".zip,application/zip"
        onFiles={([file]) => void bring(file!)}
      />
      {state.is === 'sending' ? (
        <SendingLine sending={state} doing="Importing the lesson" />
      ) : state.is === 'opening' ? (
        <ProgressLine done={state.done} doing="Checking the archive" leftUs={null} />
      ) : (
        <Button
          small
          label="Import lesson"
          spoken="Import lesson from a lesson archive"
          onPress={() => input.current?.click()}
        />
      )}
      {state.is === 'failed' ? <ProblemNotice code={state.code} /> : null}
    </View>
  );
};
