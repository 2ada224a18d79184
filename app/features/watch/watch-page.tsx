import { useQuery } from '@tanstack/react-query';
import { useLocalSearchParams } from 'expo-router';
import { StyleSheet, View } from 'react-native';
import { formatSpoken } from '@under-chalk/core/time/us';
import { call, codeOf } from '../../data/client';
import { KEYS } from '../../data/queries';
import { Notice } from '../../ui/notice';
import { ProgressLine } from '../../ui/progress-line';
import { Failed, Loading, Screen } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { WatchedFilm } from './watched-film';

/** What a student sees: the film, its title, and what is needed to watch it. */
export const WatchPage = () => {
  const { token } = useLocalSearchParams<{ token: string }>();
  const watch = useQuery({
    queryKey: KEYS.watch(token),
    queryFn: () => call('watch', { params: { token } }),
    refetchInterval: ({ state }) =>
      state.data && ['waiting', 'making'].includes(state.data.state) ? 1_500 : false,
  });
  if (!watch.data) {
    const code = watch.error ? codeOf(watch.error) : null;
    return (
      <Screen name="Watch">
        {code === 'not-found' ? (
          <Notice
            tone="warn"
            title="There is no film here (any more)."
            text="Ask your teacher for the new link."
          />
        ) : code ? (
          <Failed code={code} onRetry={() => void watch.refetch()} />
        ) : (
          <Loading what="the film" />
        )}
      </Screen>
    );
  }
  const { title, description, teacherName, state, done, filmUs, chapters } = watch.data;
  return (
    <Screen name={title || 'Watch'} wide>
      <Heading level={1}>{title}</Heading>
      <Words tone="soft" size="small">
        {[teacherName, formatSpoken(filmUs)].filter(Boolean).join(' · ')}
      </Words>
      {state === 'done' ? (
        <WatchedFilm token={token} title={title} chapters={chapters} />
      ) : state === 'waiting' || state === 'making' ? (
        <Notice title="The film is being made." text="It plays here as soon as it is ready.">
          <View style={styles.progress}>
            <ProgressLine done={done} doing="Being made" leftUs={null} />
          </View>
        </Notice>
      ) : (
        <Notice tone="warn" title="The film is not here yet." text="Try again later." />
      )}
      {description ? <Words>{description}</Words> : null}
    </Screen>
  );
};

const styles = StyleSheet.create({ progress: { width: '100%' } });
