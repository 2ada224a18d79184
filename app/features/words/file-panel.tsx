import { useState, type RefObject } from 'react';
import { StyleSheet, View } from 'react-native';
import { codeOf } from '../../data/fetch';
import { formatClock } from '@under-chalk/core/time/us';
import { cuesOfFilmText } from '@under-chalk/core/words/film-placing';
import { MOST_BYTES, readWordsFile, type ReadFile } from '@under-chalk/core/words/files/read-words';
import { languageName } from '@under-chalk/core/words/language';
import { newId } from '../../capture/new-id';
import { Button } from '../../ui/button';
import { FileInput } from '../../ui/file-input';
import { Notice, ProblemNotice } from '../../ui/notice';
import { SPACE } from '../../ui/theme';
import type { Captions } from './use-captions';

type State =
  | { readonly is: 'idle' }
  | { readonly is: 'read'; readonly name: string; readonly file: ReadFile }
  | { readonly is: 'failed'; readonly code: string };

/** A file of words that was chosen, on its way to being captions. */
export interface WordsFile {
  readonly state: State;
  readonly take: (file: File) => Promise<void>;
  readonly let: () => void;
}

/** Imported files that were neither used nor declined yet, by lesson. They survive navigation. */
const undecided = new Map<string, State>();

export const useWordsFile = (lessonId: string): WordsFile => {
  const [state, show] = useState<State>(() => undecided.get(lessonId) ?? { is: 'idle' });
  const setState = (next: State) => {
    if (next.is === 'read') undecided.set(lessonId, next);
    else undecided.delete(lessonId);
    show(next);
  };
  return {
    state,
    let: () => setState({ is: 'idle' }),
    take: async (file) => {
      try {
        // Not even fetched where it is too large.
        const bytes =
          file.size > MOST_BYTES ? new Uint8Array(MOST_BYTES + 1) : await file.arrayBuffer();
        setState({ is: 'read', name: file.name, file: readWordsFile(new Uint8Array(bytes)) });
      } catch (error) {
        setState({ is: 'failed', code: codeOf(error) });
      }
    },
  };
};

interface Props {
  readonly captions: Captions;
  readonly file: WordsFile;
  /** The page's own: pressed by what is elsewhere on it. */
  readonly input: RefObject<HTMLInputElement | null>;
  readonly onChoose: () => void;
  /** A text without times goes the way of what is pasted. */
  readonly onText: (text: string) => void;
  readonly onDone: () => void;
}

/** What was found in a file of words, and what becomes of it. */
export const FilePanel = ({ captions, file, input, onChoose, onText, onDone }: Props) => {
  const { film, language, cues } = captions;
  const { state } = file;
  const put = (read: Extract<ReadFile, { kind: 'cues' }>) => {
    const made = read.cues.flatMap((cue) => cuesOfFilmText(film, cue, { timed: 'by-hand', newId }));
    captions.write(
      made,
      cues.map(({ id }) => id),
    );
    file.let();
    onDone();
  };
  return (
    <View style={state.is === 'idle' ? null : styles.panel}>
      <FileInput
        ref={input}
        label="File with words"
        accept=".vtt,.srt,.ttml,.xml,.dfxp,.txt,text/plain,text/vtt"
        onFiles={([chosen]) => void file.take(chosen!)}
      />
      {state.is === 'failed' ? (
        <ProblemNotice code={state.code}>
          <Button small label="Choose another" onPress={onChoose} />
          <Button small label="Never mind" onPress={file.let} />
        </ProblemNotice>
      ) : null}
      {state.is === 'read' ? (
        state.file.kind === 'text' ? (
          <Notice title={state.name} text={['A text without times.', ...state.file.told].join(' ')}>
            <Button small label="Never mind" onPress={file.let} />
            <Button
              small
              kind="main"
              label="Go on with it"
              onPress={() => {
                if (state.file.kind === 'text') onText(state.file.text);
                file.let();
              }}
            />
          </Notice>
        ) : (
          <Notice title={state.name} text={foundIn(state.file, captions).join(' ')}>
            <Button small label="Never mind" onPress={file.let} />
            <Button
              small
              kind="main"
              label={`Use them in ${languageName(language)}`}
              onPress={() => state.file.kind === 'cues' && put(state.file)}
            />
          </Notice>
        )
      ) : null}
    </View>
  );
};

/** What a file holds, and what is to be known before it is used, in sentences. */
const foundIn = (
  { form, cues, language: named, told }: Extract<ReadFile, { kind: 'cues' }>,
  { film, language, cues: there }: Captions,
): string[] => {
  const late = cues.filter(({ startUs }) => startUs >= film.durationUs).length;
  return [
    `${cues.length} ${cues.length === 1 ? 'caption' : 'captions'} (${form}), until ${formatClock(cues.at(-1)!.endUs)}.`,
    ...told,
    ...(named && named !== language
      ? [`It says that it is in ${languageName(named)}; you are at ${languageName(language)}.`]
      : []),
    ...(late > 0
      ? [`${late} of them come after the end of the film, and will stand at its end.`]
      : []),
    ...(there.length > 0
      ? [`They take the place of the ${there.length} that are there. Undo brings those back.`]
      : []),
  ];
};

const styles = StyleSheet.create({ panel: { gap: SPACE.small } });
