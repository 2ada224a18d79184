import { Image, StyleSheet, View } from 'react-native';
import type { PageFilm } from '@under-chalk/core/contract/student-pages';
import { useText, type Text } from '../../messages/use-text';
import { InView } from '../../ui/in-view';
import { Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';
import { coverPath } from '../watch/watch-data';

/** What is said of a film beside its length. */
const stateOf = (
  { opened, opensAt, availableUntil }: PageFilm,
  { t, when }: Text,
): string | null => {
  if (opensAt !== null) return t('studentPage.opensAt', { when: when(opensAt) });
  if (availableUntil !== null) return t('studentPage.until', { when: when(availableUntil) });
  return opened ? t('studentPage.opened') : null;
};

/** What is to be done when it has been watched; null: nothing. */
const todoOf = (
  { todo, token }: PageFilm,
  { t, when }: Text,
): { words: string; done: boolean } | null => {
  if (todo === null || token === null) return null;
  if (todo.done) return { words: t('studentPage.submitted'), done: true };
  const { handsIn, dueAt } = todo;
  const words =
    dueAt === null
      ? t(handsIn ? 'studentPage.toSubmit' : 'studentPage.toDo')
      : t(handsIn ? 'studentPage.toSubmitBy' : 'studentPage.toDoBy', { when: when(dueAt) });
  return { words, done: false };
};

/** Drawn by the browser: a package for one drawing would be 12 kB of every student's page. */
const ClockDrawing = ({ color }: { color: string }) => (
  <svg width={28} height={28} viewBox="0 0 28 28" fill="none" stroke={color} strokeWidth={2}>
    <circle cx={14} cy={14} r={11} />
    <path d="M14 8v6.5l4 2.5" strokeLinecap="round" strokeLinejoin="round" />
  </svg>
);

/** A film on a page: a press opens it. One that opens later says when. */
export const FilmTile = ({ film, large = false }: { film: PageFilm; large?: boolean }) => {
  const theme = useTheme();
  const text = useText();
  const { t } = text;
  const { token, title, filmUs, opened } = film;
  const name = title || t('watch.untitled');
  const isNew = token !== null && opened === false;
  const todo = todoOf(film, text);
  const facts = [text.length(filmUs), stateOf(film, text)].filter(Boolean).join(' · ');
  const tile = [
    styles.tile,
    large ? styles.column : styles.line,
    { borderColor: theme.line, backgroundColor: theme.card },
  ];
  const inside = (
    <>
      <View
        style={[
          styles.picture,
          large ? styles.across : styles.beside,
          { backgroundColor: theme.line },
        ]}
        aria-hidden
      >
        {token === null ? (
          <ClockDrawing color={theme.inkSoft} />
        ) : (
          <InView style={styles.fill}>
            <Image source={{ uri: coverPath(token) }} style={styles.fill} resizeMode="cover" />
          </InView>
        )}
      </View>
      <View style={styles.words}>
        <Words strong>{name}</Words>
        <Words size="small" tone="soft">
          {facts}
        </Words>
        {todo ? (
          <Words size="small" strong tone={todo.done ? 'good' : 'ink'}>
            {todo.words}
          </Words>
        ) : null}
        {isNew ? (
          <Words size="small" strong tone="action">
            {t('studentPage.new')}
          </Words>
        ) : null}
      </View>
    </>
  );
  return (
    <View role="listitem">
      {token === null ? (
        <View style={tile}>{inside}</View>
      ) : (
        <View
          {...({ href: `/w/${token}`, role: 'link' } as object)}
          aria-label={[name, facts, todo?.words, isNew ? t('studentPage.new') : '']
            .filter(Boolean)
            .join(', ')}
          style={tile}
        >
          {inside}
        </View>
      )}
    </View>
  );
};

const styles = StyleSheet.create({
  tile: {
    minHeight: 44,
    padding: SPACE.small,
    borderWidth: 1,
    borderRadius: RADIUS.medium,
  },
  line: { flexDirection: 'row', alignItems: 'center', gap: SPACE.medium },
  column: { gap: SPACE.small },
  picture: {
    aspectRatio: 16 / 9,
    borderRadius: RADIUS.small,
    overflow: 'hidden',
    alignItems: 'center',
    justifyContent: 'center',
  },
  beside: { width: 128 },
  across: { width: '100%' },
  fill: { width: '100%', height: '100%' },
  words: { flexShrink: 1, gap: SPACE.hair },
});
