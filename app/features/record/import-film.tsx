import { useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { inkLine, type InkRecord } from '@under-chalk/core/ink/record';
import { containerIn, HEAD_BYTES } from '@under-chalk/core/mp4/container';
import { newId } from '../../capture/new-id';
import { NOT_SENT, sendFile, whyNotSent, type Sending } from '../../capture/sending/send-file';
import { call } from '../../data/client';
import { KEYS } from '../../data/queries';
import { Button } from '../../ui/button';
import { FileInput } from '../../ui/file-input';
import { ProblemNotice } from '../../ui/notice';
import { Heading, Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { useThisLesson } from '../lessons/lesson-layout';
import { SendingLine } from '../lessons/sending-line';

/** By its first bytes, so that a wrong file is refused before it is sent. */
const looksLikeFilm = async (file: File): Promise<boolean> =>
  containerIn(new Uint8Array(await file.slice(0, HEAD_BYTES).arrayBuffer())) !== null;

const looksLikeInk = ({ name, type }: File): boolean =>
  /\.inkml$/i.test(name) || type === 'application/inkml+xml';

type State =
  | { readonly is: 'idle' }
  | ({ readonly is: 'sending' } & Sending)
  | { readonly is: 'failed'; readonly code: string };

/** Brings a film from the disk or the camera roll into the lesson, as a take. */
export const ImportFilm = () => {
  const { lesson } = useThisLesson();
  const client = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const [state, setState] = useState<State>({ is: 'idle' });

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
    setState({ is: 'sending', ...NOT_SENT });
    const takeId = newId();
    const trackId = newId();
    const alive = setInterval(() => {
      call('heartbeat', { params: { takeId }, body: {} }).catch(() => undefined);
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
      await sendFile(file, trackId, (sending) => setState({ is: 'sending', ...sending }));
      await call('stopTake', { params: { takeId }, body: {} });
      setState({ is: 'idle' });
    } catch (error) {
      setState({ is: 'failed', code: whyNotSent(error) });
    } finally {
      clearInterval(alive);
      await client.invalidateQueries({ queryKey: KEYS.lesson(lesson.id) });
    }
  };

  return (
    <View style={styles.group}>
      <Heading level={2}>Import film</Heading>
      <Words>
        An MP4, MOV or WebM from the disk or the camera roll becomes a take of this lesson. So does
        ink of another program, as InkML.
      </Words>
      <FileInput
        ref={input}
        label="Film to bring in"
        accept="video/*,.mp4,.mov,.webm,.inkml,application/inkml+xml"
        onFiles={([file]) => void bring(file!)}
      />
      {state.is === 'sending' ? (
        <SendingLine sending={state} doing="Bringing it in" />
      ) : (
        <Button label="Choose a film" onPress={() => input.current?.click()} />
      )}
      {state.is === 'failed' ? <ProblemNotice code={state.code} /> : null}
    </View>
  );
};

const styles = StyleSheet.create({ group: { gap: SPACE.small, alignItems: 'stretch' } });
