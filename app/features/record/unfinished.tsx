import { createContext, useContext, useEffect, useMemo, type ReactNode } from 'react';
import { useQueryClient } from '@tanstack/react-query';
import { StyleSheet, View } from 'react-native';
import { formatSpoken } from '@under-chalk/core/time/us';
import { CatchUp, type Unsent } from '../../capture/sending/catch-up';
import { usePart } from '../../data/live-value';
import { KEYS } from '../../data/queries';
import { Button } from '../../ui/button';
import { Notice } from '../../ui/notice';
import { ProgressLine } from '../../ui/progress-line';
import { SPACE } from '../../ui/theme';

const CatchUpContext = createContext<CatchUp | null>(null);

/** Brings what was recorded and not sent to the server, for as long as the app is open. */
export const CatchUpProvider = ({ children }: { children: ReactNode }) => {
  const client = useQueryClient();
  const catchUp = useMemo(
    () =>
      new CatchUp((lessonId) => {
        void client.invalidateQueries({ queryKey: KEYS.lesson(lessonId) });
        void client.invalidateQueries({ queryKey: KEYS.lessons });
      }),
    [client],
  );
  useEffect(() => {
    catchUp.open();
    return () => catchUp.close();
  }, [catchUp]);
  return <CatchUpContext.Provider value={catchUp}>{children}</CatchUpContext.Provider>;
};

const titleOf = ({ state, stopped, recordedUs, lessonTitle }: Unsent, inLesson: boolean) => {
  const unsent = stopped ? 'A recording not sent yet' : 'Unfinished recording';
  const what = state === 'done' ? 'Recording sent' : unsent;
  const where = inLesson || !lessonTitle ? '' : ` in “${lessonTitle}”`;
  return `${what}${where}, ${formatSpoken(recordedUs)}`;
};

const TEXT: Record<Unsent['state'], string> = {
  sending: 'It is being brought to safety; nothing more is needed.',
  waiting: 'It is safe in this browser, and is sent as soon as Under Chalk can be reached.',
  done: 'It is on the server, in its place in the lesson.',
  refused:
    'The server does not take it. It stays safe in this browser; the log where the app was started says why.',
};

interface Props {
  /** Only those of this lesson. */
  readonly lessonId?: string;
}

/** What was recorded in this browser and had not got to the server when the app was opened. */
export const Unfinished = (props: Props) => {
  const catchUp = useContext(CatchUpContext);
  // Just signed in, the page is there a moment before the gate has made room for what belongs to a teacher.
  return catchUp ? <UnsentList {...props} catchUp={catchUp} /> : null;
};

const UnsentList = ({ lessonId, catchUp }: Props & { catchUp: CatchUp }) => {
  const all = usePart(catchUp, (view) => view);
  const shown = all.filter((unsent) => !lessonId || unsent.lessonId === lessonId);
  return shown.map((unsent) => (
    <Notice
      key={unsent.takeId}
      tone={unsent.state === 'done' ? 'good' : unsent.state === 'refused' ? 'bad' : 'plain'}
      title={titleOf(unsent, lessonId !== undefined)}
      text={TEXT[unsent.state]}
    >
      {unsent.state === 'sending' || unsent.state === 'waiting' ? (
        <View style={styles.progress}>
          <ProgressLine done={unsent.done} doing="Sent" leftUs={null} />
        </View>
      ) : null}
      {unsent.state === 'done' ? (
        <Button small label="Keep it" onPress={() => catchUp.dismiss(unsent.takeId)} />
      ) : null}
    </Notice>
  ));
};

const styles = StyleSheet.create({ progress: { width: '100%', gap: SPACE.small } });
