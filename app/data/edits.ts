import { useQueryClient, type QueryClient } from '@tanstack/react-query';
import type { LessonView } from '@under-chalk/core/contract/lessons';
import type { Act } from '@under-chalk/core/edit/edit';
import {
  createContext,
  useCallback,
  useContext,
  useEffect,
  useMemo,
  useSyncExternalStore,
} from 'react';
import { call } from './client';
import { EditLine, type EditState, type LessonDoor } from './edit-line';
import { KEYS } from './queries';

const doorOf = (client: QueryClient, lessonId: string): LessonDoor => ({
  send: (edits) => call('edit', { params: { lessonId }, body: edits }),
  read: () => client.getQueryData<LessonView>(KEYS.lesson(lessonId)),
  write: (view) => {
    // An answer to a question asked before would be older than this one.
    void client.cancelQueries({ queryKey: KEYS.lesson(lessonId) });
    client.setQueryData(KEYS.lesson(lessonId), view);
    void client.invalidateQueries({ queryKey: KEYS.lessons });
  },
  refetch: () => client.invalidateQueries({ queryKey: KEYS.lesson(lessonId) }),
});

export const EditLineContext = createContext<EditLine | null>(null);

/** The line of a lesson's edits, open while its page is. */
export const useNewEditLine = (lessonId: string): EditLine => {
  const client = useQueryClient();
  const line = useMemo(() => new EditLine(lessonId, doorOf(client, lessonId)), [lessonId, client]);
  useEffect(() => {
    line.open();
    return () => line.close();
  }, [line]);
  return line;
};

/** The state of a line, drawn anew when it changes. */
export const useEditState = (line: EditLine): EditState =>
  useSyncExternalStore(line.subscribe, line.state, line.state);

/** The way to decide something about the lesson whose page this is. */
export const useEdits = () => {
  const line = useContext(EditLineContext);
  if (!line) throw new Error('useEdits stands inside a lesson’s page');
  const state = useEditState(line);
  /** Decides something, with one press: what is put at once is undone at once. */
  const put = useCallback((...acts: Act[]) => line.put(...acts), [line]);
  return { line, state, put };
};
