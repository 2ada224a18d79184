import { format } from 'date-fns/format';
import { Link, type Href } from 'expo-router';
import { Image, Pressable, StyleSheet, View } from 'react-native';
import { pathTo } from '@under-chalk/core/contract/api';
import type { LessonRow as Row } from '@under-chalk/core/contract/lessons';
import { megabytes } from '@under-chalk/core/destination/destination';
import { errorText } from '@under-chalk/core/errors/errors';
import { formatClock } from '@under-chalk/core/time/us';
import { InView } from '../../ui/in-view';
import { Menu } from '../../ui/menu';
import { Words } from '../../ui/text';
import { coverPath } from '../cover/cover-path';
import { LessonGauge } from '../destinations/lesson-gauge';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';

/** The step a lesson is likely to be opened for. */
const stepOf = (lesson: Row) =>
  lesson.handedOut || lesson.keptFilmId ? 'hand-out' : lesson.takeCount === 0 ? 'plan' : 'tidy';

/** How it stands with a lesson, in words. */
export const stateOf = (lesson: Row): string =>
  lesson.problem
    ? errorText(lesson.problem).message
    : lesson.incomplete
      ? 'Recording incomplete'
      : lesson.handedOut
        ? lesson.takeCount === 0
          ? 'Its film is handed out'
          : 'Handed out'
        : lesson.takeCount === 0
          ? lesson.keptFilmId
            ? 'Its film is kept'
            : 'Planned'
          : 'Recorded, not handed out';

interface Props {
  readonly lesson: Row;
  readonly onCopy: () => void;
  readonly onThrowAway: () => void;
  /** Puts it into the archive, or takes it out. */
  readonly onArchive: () => void;
  /** Begins to choose several, with this one. */
  readonly onChoose: () => void;
}

/** A lesson in the list: a link to where it is gone on with, and what else can be done with it. */
export const LessonRow = ({ lesson, onCopy, onThrowAway, onArchive, onChoose }: Props) => {
  const theme = useTheme();
  const title = lesson.title || 'Without a title';
  const state = stateOf(lesson);
  const { cover, pictureTakeId, keptFilmId } = lesson;
  const picture = cover
    ? coverPath({ id: lesson.id, changed: lesson.updatedAt }, cover, 'small')
    : pictureTakeId
      ? `${pathTo('still', { takeId: pictureTakeId })}?atUs=${lesson.pictureUs}`
      : keptFilmId
        ? pathTo('filmCover', { filmId: keptFilmId })
        : null;
  const facts = [
    lesson.problem || lesson.filmUs === 0 ? null : formatClock(lesson.filmUs),
    state,
    lesson.archived ? 'in the archive' : null,
    lesson.bytes > 0 ? megabytes(lesson.bytes) : null,
    format(new Date(lesson.updatedAt), 'd MMM'),
  ].filter(Boolean);
  const inside = (
    <>
      <InView style={[styles.picture, { backgroundColor: theme.line }]}>
        {picture ? (
          <Image source={{ uri: picture }} style={styles.fill} resizeMode="cover" alt="" />
        ) : null}
      </InView>
      <View style={styles.words}>
        <Words strong numberOfLines={1}>
          {title}
        </Words>
        <Words
          size="small"
          tone={lesson.problem || lesson.incomplete ? 'bad' : 'soft'}
          numberOfLines={1}
        >
          {facts.join(' · ')}
        </Words>
        {lesson.problem ? null : (
          <LessonGauge thin usedUs={lesson.filmUs} destinationId={lesson.destinationId} />
        )}
      </View>
    </>
  );
  const save = (what: 'lessonArchive' | 'openTimeline') =>
    location.assign(pathTo(what, { lessonId: lesson.id }));
  return (
    <View
      role="listitem"
      style={[styles.row, { backgroundColor: theme.card, borderColor: theme.line }]}
    >
      {lesson.problem ? (
        <View style={styles.link}>{inside}</View>
      ) : (
        <Link href={`/lessons/${lesson.id}/${stepOf(lesson)}` as Href} asChild>
          <Pressable aria-label={`${title}. ${state}.`} style={styles.link}>
            {inside}
          </Pressable>
        </Link>
      )}
      <Menu
        of={title}
        items={[
          ...(lesson.problem ? [] : [{ label: 'Make a copy', onPress: onCopy }]),
          // The archive has the cut list in it, too.
          ...(lesson.problem || lesson.takeCount === 0
            ? []
            : [
                { label: 'Download lesson archive', onPress: () => save('lessonArchive') },
                { label: 'Save the cut list', onPress: () => save('openTimeline') },
              ]),
          {
            label: lesson.archived ? 'Take it out of the archive' : 'Put it into the archive',
            onPress: onArchive,
          },
          { label: 'Choose several…', onPress: onChoose },
          { label: 'Delete', onPress: onThrowAway, grave: true },
        ]}
      />
    </View>
  );
};

const styles = StyleSheet.create({
  row: {
    flexDirection: 'row',
    alignItems: 'center',
    borderWidth: 1,
    borderRadius: RADIUS.medium,
  },
  link: {
    flexGrow: 1,
    flexShrink: 1,
    flexDirection: 'row',
    alignItems: 'center',
    gap: SPACE.medium,
    padding: 6,
    minHeight: 56,
  },
  picture: { width: 82, height: 46, borderRadius: RADIUS.small, overflow: 'hidden' },
  fill: { width: '100%', height: '100%' },
  words: { flexShrink: 1, flexGrow: 1 },
});
