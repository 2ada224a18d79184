import { StyleSheet, View } from 'react-native';
import { canBePlayed, type Watch } from '@under-chalk/core/contract/watch';
import type { ToldLicence } from '@under-chalk/core/lesson/licence';
import { CLOSED, type Closed } from '@under-chalk/core/share-link/closed';
import { codeOf, whenOf } from '../../data/fetch';
import { LanguageChoice } from '../../messages/language-choice';
import { useText } from '../../messages/use-text';
import { Button } from '../../ui/button';
import { Notice } from '../../ui/notice';
import { ProgressLine } from '../../ui/progress-line';
import { Failed, Loading, Screen } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { AssignmentCard } from './assignment/assignment-card';
import { materialPath, notesPath, savePath, useWatch } from './watch-data';
import { WatchedFilm } from './watched-film';

interface Props {
  readonly token: string;
  /** What the page was served with. */
  readonly served?: Watch | undefined;
}

const SAVED = [
  { form: 'mp4', label: 'watch.downloadFilm' },
  { form: 'm4a', label: 'watch.downloadM4a' },
  { form: 'mp3', label: 'watch.downloadMp3' },
] as const;

/** Whether it stands in a frame of another page. */
const isFramed = (): boolean => window.self !== window.top;

/** What a student sees: the film, its title, and what is needed to watch it. */
export const WatchPage = ({ token, served }: Props) => {
  const watch = useWatch(token, served);
  const { t, length, size } = useText();
  if (!watch.data) {
    const code = watch.error ? codeOf(watch.error) : null;
    const closed = CLOSED.find((one) => one === code);
    return (
      <Screen name={t('watch.page')}>
        <Heading level={1}>{t('watch.page')}</Heading>
        {closed ? (
          <ClosedLink code={closed} when={whenOf(watch.error)} />
        ) : code ? (
          <Failed code={code} onRetry={() => void watch.refetch()} />
        ) : (
          <Loading />
        )}
        <LanguageChoice />
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
    downloads,
    licence,
    materials,
    named,
    stream,
    assignment,
  } = watch.data;
  // In a page of another site it is the player alone: what stands round it is that page's.
  if (isFramed() && canBePlayed(watch.data)) {
    return (
      <View role="main" aria-label={title || t('watch.page')} style={styles.alone}>
        <WatchedFilm alone token={token} watch={watch.data} />
      </View>
    );
  }
  return (
    <Screen name={title || t('watch.page')} wide>
      <View style={styles.head}>
        <Heading level={1}>{title || t('watch.untitled')}</Heading>
        <Words tone="soft" size="small">
          {[teacherName, length(filmUs)].filter(Boolean).join(' · ')}
        </Words>
      </View>
      {canBePlayed(watch.data) ? (
        <WatchedFilm token={token} watch={watch.data} />
      ) : state === 'waiting' || state === 'making' ? (
        <Notice title={t('watch.rendering')} text={t('watch.renderingHint')}>
          <View style={styles.progress}>
            <ProgressLine done={done} doing={t('watch.renderingLabel')} leftUs={null} />
          </View>
        </Notice>
      ) : (
        <Notice tone="warn" title={t('watch.unavailable')} text={t('watch.unavailableHint')} />
      )}
      {description ? <Words>{description}</Words> : null}
      {stream === null ? null : (
        <Words size="small" tone="soft">
          {!named
            ? t('watch.counted')
            : teacherName
              ? t('watch.seenByNamed', { teacher: teacherName })
              : t('watch.seenByTeacher')}
        </Words>
      )}
      {assignment ? <AssignmentCard {...{ token, assignment, named, teacherName }} /> : null}
      {licence ? <Licence licence={licence} /> : null}
      <View style={styles.saved}>
        {downloads && state === 'done'
          ? SAVED.map(({ form, label }) => (
              <Button
                key={form}
                label={t(label)}
                onPress={() => location.assign(savePath(token, form))}
              />
            ))
          : null}
        {materials.map(({ name, bytes }, index) => (
          <Button
            key={`${index} ${name}`}
            label={t('watch.attachment', { name, size: size(bytes) })}
            spoken={t('watch.attachmentSpoken', { name, size: size(bytes) })}
            onPress={() => location.assign(materialPath(token, index))}
          />
        ))}
        {notePages > 0 ? (
          <Button
            label={t('watch.downloadPages', { pages: notePages })}
            onPress={() => location.assign(notesPath(token))}
          />
        ) : null}
      </View>
      <LanguageChoice />
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
  const text = useText();
  const { message, hint } = text.problem(code === 'not-found' ? 'film-not-found' : code);
  const opensAt = code === 'not-open-yet' && when !== null ? text.when(when) : null;
  return (
    <Notice
      {...(code === 'not-found' ? { tone: 'warn' as const } : {})}
      title={message}
      text={opensAt === null ? hint : text.t('watch.opensAt', { when: opensAt })}
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
