import { StyleSheet, View } from 'react-native';
import type { Watch } from '@under-chalk/core/contract/watch';
import { formatSpoken } from '@under-chalk/core/time/us';
import { codeOf } from '../../data/fetch';
import { Button } from '../../ui/button';
import { Notice } from '../../ui/notice';
import { ProgressLine } from '../../ui/progress-line';
import { Failed, Loading, Screen } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { notesPath, useWatch } from './watch-data';
import { WatchedFilm } from './watched-film';

interface Props {
  readonly token: string;
  /** What the page was served with. */
  readonly served?: Watch | undefined;
}

/** What a student sees: the film, its title, and what is needed to watch it. */
export const WatchPage = ({ token, served }: Props) => {
  const watch = useWatch(token, served);
  if (!watch.data) {
    const code = watch.error ? codeOf(watch.error) : null;
    return (
      <Screen name="Watch">
        <Heading level={1}>Watch</Heading>
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
  const { title, description, teacherName, state, done, filmUs, chapters, notePages, languages } =
    watch.data;
  return (
    <Screen name={title || 'Watch'} wide>
      <View style={styles.head}>
        <Heading level={1}>{title || 'A film without a name'}</Heading>
        <Words tone="soft" size="small">
          {[teacherName, formatSpoken(filmUs)].filter(Boolean).join(' · ')}
        </Words>
      </View>
      {state === 'done' ? (
        <WatchedFilm
          token={token}
          title={title}
          filmUs={filmUs}
          chapters={chapters}
          languages={languages}
        />
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
      {notePages > 0 ? (
        <View style={styles.notes}>
          <Button
            label={notePages === 1 ? 'The page as PDF' : `The ${notePages} pages as PDF`}
            onPress={() => location.assign(notesPath(token))}
          />
        </View>
      ) : null}
    </Screen>
  );
};

const styles = StyleSheet.create({
  head: { gap: SPACE.hair },
  progress: { width: '100%' },
  notes: { alignItems: 'flex-start' },
});
