import { StyleSheet, View } from 'react-native';
import { canBePlayed, type Watch } from '@under-chalk/core/contract/watch';
import type { ToldLicence } from '@under-chalk/core/lesson/licence';
import { bytesInWords } from '@under-chalk/core/text/bytes';
import { formatSpoken } from '@under-chalk/core/time/us';
import { CLOSED, CLOSED_WORDS, type Closed } from '@under-chalk/core/hand-out/closed-words';
import { codeOf, whenOf } from '../../data/fetch';
import { momentInWords } from '../../ui/moment';
import { Button } from '../../ui/button';
import { Notice } from '../../ui/notice';
import { ProgressLine } from '../../ui/progress-line';
import { Failed, Loading, Screen } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { ActivityCard } from './activity/activity-card';
import { materialPath, notesPath, savePath, useWatch } from './watch-data';
import { WatchedFilm } from './watched-film';

interface Props {
  readonly token: string;
  /** What the page was served with. */
  readonly served?: Watch | undefined;
}

const SAVED = [
  { form: 'mp4', label: 'Save the film' },
  { form: 'm4a', label: 'Save its sound (M4A)' },
  { form: 'mp3', label: 'Save its sound (MP3)' },
] as const;

/** Whether it stands in a frame of another page. */
const isFramed = (): boolean => window.self !== window.top;

/** What a student sees: the film, its title, and what is needed to watch it. */
export const WatchPage = ({ token, served }: Props) => {
  const watch = useWatch(token, served);
  if (!watch.data) {
    const code = watch.error ? codeOf(watch.error) : null;
    const closed = CLOSED.find((one) => one === code);
    return (
      <Screen name="Watch">
        <Heading level={1}>Watch</Heading>
        {closed ? (
          <ClosedLink code={closed} when={whenOf(watch.error)} />
        ) : code ? (
          <Failed code={code} onRetry={() => void watch.refetch()} />
        ) : (
          <Loading what="the film" />
        )}
      </Screen>
    );
  }
  const {
    title,
    description,
    teacherName,
    state,
    done,
    filmUs,
    notePages,
    saves,
    licence,
    materials,
    named,
    stream,
    activity,
  } = watch.data;
  // In a page of another site it is the player alone: what stands round it is that page's.
  if (isFramed() && canBePlayed(watch.data)) {
    return (
      <View role="main" aria-label={title || 'Watch'} style={styles.alone}>
        <WatchedFilm alone token={token} watch={watch.data} />
      </View>
    );
  }
  return (
    <Screen name={title || 'Watch'} wide>
      <View style={styles.head}>
        <Heading level={1}>{title || 'A film without a name'}</Heading>
        <Words tone="soft" size="small">
          {[teacherName, formatSpoken(filmUs)].filter(Boolean).join(' · ')}
        </Words>
      </View>
      {canBePlayed(watch.data) ? (
        <WatchedFilm token={token} watch={watch.data} />
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
      {stream === null ? null : (
        <Words size="small" tone="soft">
          {named
            ? `${teacherName || 'Your teacher'} sees how much of it you have watched.`
            : 'How much of it is watched is counted, without names.'}
        </Words>
      )}
      {activity ? <ActivityCard {...{ token, activity, named, teacherName }} /> : null}
      {licence ? <Licence licence={licence} /> : null}
      <View style={styles.saved}>
        {saves && state === 'done'
          ? SAVED.map(({ form, label }) => (
              <Button
                key={form}
                label={label}
                onPress={() => location.assign(savePath(token, form))}
              />
            ))
          : null}
        {materials.map(({ name, bytes }, index) => (
          <Button
            key={`${index} ${name}`}
            label={`${name} (${bytesInWords(bytes)})`}
            spoken={`Save ${name}, ${bytesInWords(bytes)}`}
            onPress={() => location.assign(materialPath(token, index))}
          />
        ))}
        {notePages > 0 ? (
          <Button
            label={notePages === 1 ? 'The page as PDF' : `The ${notePages} pages as PDF`}
            onPress={() => location.assign(notesPath(token))}
          />
        ) : null}
      </View>
    </Screen>
  );
};

/** What others may do with it, and where that can be read in full. */
const Licence = ({ licence: { line, url } }: { licence: ToldLicence }) => (
  <View style={styles.saved}>
    {url === null ? (
      <Words size="small" tone="soft">
        {line}
      </Words>
    ) : (
      <Words
        size="small"
        tone="action"
        style={styles.link}
        {...({ href: url, hrefAttrs: { rel: 'license noopener', target: '_blank' } } as object)}
      >
        {line}
      </Words>
    )}
  </View>
);

/** Why a link leads to no film just now, with the moment that it is about where this device is. */
const ClosedLink = ({ code, when }: { code: Closed; when: string | null }) => {
  const { sentence, next } = CLOSED_WORDS[code];
  const moment = code === 'not-open-yet' && when !== null ? momentInWords(when) : null;
  return (
    <Notice
      {...(code === 'not-found' ? { tone: 'warn' as const } : {})}
      title={sentence}
      text={moment === null ? next : `It opens ${moment}.`}
    />
  );
};

const styles = StyleSheet.create({
  alone: { flex: 1, ...({ overflowY: 'auto' } as object) },
  head: { gap: SPACE.hair },
  progress: { width: '100%' },
  // As high as what a finger needs.
  link: { textDecorationLine: 'underline', lineHeight: 44 },
  saved: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
