import { useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { Upload } from 'tus-js-client';
import { inkLine, type InkRecord } from '@under-chalk/core/ink/record';
import { containerIn, HEAD_BYTES } from '@under-chalk/core/mp4/container';
import { UPLOADS_PATH } from '@under-chalk/core/contract/takes';
import { newId } from '../../capture/new-id';
import { haltedBy, type Halted } from '../../capture/sending/track-sender';
import { call, codeOf } from '../../data/client';
import { KEYS } from '../../data/queries';
import { Button } from '../../ui/button';
import { ProblemNotice } from '../../ui/notice';
import { ProgressLine } from '../../ui/progress-line';
import { Heading, Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { useThisLesson } from '../lessons/lesson-layout';

/** By its first bytes, so that a wrong file is refused before it is sent. */
const looksLikeFilm = async (file: File): Promise<boolean> =>
  containerIn(new Uint8Array(await file.slice(0, HEAD_BYTES).arrayBuffer())) !== null;

const looksLikeInk = ({ name, type }: File): boolean =>
  /\.inkml$/i.test(name) || type === 'application/inkml+xml';

const RETRY_MS = Array.from({ length: 1_000 }, () => 3_000);
const CHUNK_BYTES = 8_000_000;

const HALTED: Record<Halted, string> = {
  away: 'Under Chalk can’t be reached just now. It goes on by itself; leave this page open.',
  'disk-full':
    'The server’s disk is full. It goes on by itself when there is room; leave this page open.',
};

type State =
  | { readonly is: 'idle' }
  | {
      readonly is: 'sending';
      readonly done: number;
      readonly leftUs: number | null;
      readonly halted: Halted | null;
    }
  | { readonly is: 'failed'; readonly code: string };

/** Brings a film from the disk or the camera roll into the lesson, as a take. */
export const BringIn = () => {
  const { lesson } = useThisLesson();
  const client = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const [state, setState] = useState<State>({ is: 'idle' });

  const send = (file: Blob, trackId: string) =>
    new Promise<void>((resolve, reject) => {
      const began = Date.now();
      new Upload(file, {
        endpoint: location.origin + UPLOADS_PATH,
        chunkSize: CHUNK_BYTES,
        metadata: { trackId },
        retryDelays: RETRY_MS,
        storeFingerprintForResuming: false,
        onProgress: (sent, all) => {
          const done = all ? sent / all : 0;
          const spentUs = (Date.now() - began) * 1000;
          const leftUs = done > 0.02 ? (spentUs * (1 - done)) / done : null;
          setState({ is: 'sending', done, leftUs, halted: null });
        },
        onShouldRetry: (error) => {
          const status = error.originalResponse?.getStatus() ?? 0;
          const halted = haltedBy(status);
          setState((now) => (now.is === 'sending' ? { ...now, halted } : now));
          return status === 0 || status >= 500 || status === 423;
        },
        onSuccess: () => resolve(),
        onError: reject,
      }).start();
    });

  const bring = async (file: File) => {
    if (file.size === 0) return setState({ is: 'failed', code: 'file-empty' });
    if (await looksLikeFilm(file)) return bringAs('film', 'surface', file);
    if (!looksLikeInk(file)) return setState({ is: 'failed', code: 'file-not-film' });
    let records: InkRecord[];
    try {
      // Seldom wanted: fetched when it is.
      const { inkOfInkml } = await import('@under-chalk/core/ink/inkml');
      records = inkOfInkml(await file.text(), newId);
    } catch {
      // Whatever is wrong with it: it is not what it should be.
      return setState({ is: 'failed', code: 'file-not-ink' });
    }
    await bringAs('board', 'ink', new Blob(records.map(inkLine)));
  };

  const bringAs = async (source: 'film' | 'board', kind: 'surface' | 'ink', file: Blob) => {
    setState({ is: 'sending', done: 0, leftUs: null, halted: null });
    const takeId = newId();
    const trackId = newId();
    const alive = setInterval(() => {
      call('takeAlive', { params: { takeId } }).catch(() => undefined);
    }, 5_000);
    try {
      await call('newTake', {
        params: { lessonId: lesson.id },
        body: {
          id: takeId,
          source,
          practice: false,
          tracks: [{ id: trackId, kind }],
        },
      });
      await send(file, trackId);
      await call('stopTake', { params: { takeId }, body: {} });
      setState({ is: 'idle' });
    } catch (error) {
      const status =
        (error as { originalResponse?: { getStatus(): number } }).originalResponse?.getStatus() ??
        0;
      setState({ is: 'failed', code: status === 413 ? 'too-large' : codeOf(error) });
    } finally {
      clearInterval(alive);
      await client.invalidateQueries({ queryKey: KEYS.lesson(lesson.id) });
    }
  };

  return (
    <View style={styles.group}>
      <Heading level={2}>Bring in a film</Heading>
      <Words>
        An MP4, MOV or WebM from the disk or the camera roll becomes a take of this lesson. So does
        ink of another program, as InkML.
      </Words>
      <input
        ref={input}
        type="file"
        accept="video/*,.mp4,.mov,.webm,.inkml,application/inkml+xml"
        aria-label="Film to bring in"
        style={{ display: 'none' }}
        onChange={(event) => {
          const file = event.currentTarget.files?.[0];
          event.currentTarget.value = '';
          if (file) void bring(file);
        }}
      />
      {state.is === 'sending' ? (
        <>
          <ProgressLine
            done={state.done}
            doing="Bringing it in"
            leftUs={state.halted ? null : state.leftUs}
          />
          {state.halted ? <Words role="status">{HALTED[state.halted]}</Words> : null}
        </>
      ) : (
        <Button label="Choose a film" onPress={() => input.current?.click()} />
      )}
      {state.is === 'failed' ? <ProblemNotice code={state.code} /> : null}
    </View>
  );
};

const styles = StyleSheet.create({ group: { gap: SPACE.small, alignItems: 'stretch' } });
