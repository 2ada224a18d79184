import { StyleSheet, useWindowDimensions, View } from 'react-native';
import type { PageContent, PageFilm, PageUnit } from '@under-chalk/core/contract/student-pages';
import { codeOf } from '../../data/fetch';
import { LanguageChoice } from '../../messages/language-choice';
import { useText } from '../../messages/use-text';
import { Notice } from '../../ui/notice';
import { Failed, Loading, Screen } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { SPACE, WIDE } from '../../ui/theme';
import { PinForm } from './pin-form';
import { FilmTile } from './film-tile';
import { usePageContent } from './student-page-data';

interface Props {
  /** The unguessable part of the page's address. */
  readonly pageKey: string;
  /** What the page was served with. */
  readonly served?: PageContent | undefined;
}

/** A student's own page: this week on top, everything else below by unit. */
export const StudentPageScreen = ({ pageKey, served }: Props) => {
  const pageContent = usePageContent(pageKey, served);
  const { t, problem } = useText();
  const code = pageContent.error ? codeOf(pageContent.error) : null;
  // What was there stays as long as nobody can be asked; not when it was taken away.
  const isShut = code === 'no-page' || code === 'pin-needed';
  if (pageContent.data && !isShut) return <Shown pageContent={pageContent.data} />;
  return (
    <Screen name={t('studentPage.title')}>
      <Heading level={1}>{t('studentPage.title')}</Heading>
      {code === 'pin-needed' ? (
        <PinForm pageKey={pageKey} />
      ) : code === 'no-page' ? (
        <Notice tone="warn" title={problem(code).message} text={problem(code).hint} />
      ) : code ? (
        <Failed code={code} onRetry={() => void pageContent.refetch()} />
      ) : (
        <Loading />
      )}
      <LanguageChoice />
    </Screen>
  );
};

const Shown = ({
  pageContent: { of, name, teacherName, classes, own },
}: {
  pageContent: PageContent;
}) => {
  const { t } = useText();
  const title = of === 'class' ? name : t('studentPage.filmsFor', { name });
  return (
    <Screen name={title} wide>
      <View style={styles.head}>
        <Heading level={1}>{title}</Heading>
        {teacherName ? (
          <Words tone="soft">{t('studentPage.from', { teacher: teacherName })}</Words>
        ) : null}
      </View>
      {classes.length === 0 && own.length === 0 ? (
        <Notice title={t('studentPage.empty')} text={t('studentPage.emptyHint')} />
      ) : null}
      {own.length > 0 ? (
        <View style={styles.group}>
          <Heading level={2}>{t('studentPage.forYou')}</Heading>
          <Tiles films={own} of={t('studentPage.forYou')} />
        </View>
      ) : null}
      {classes.map((one, index) => (
        <View key={`${index} ${one.name}`} style={styles.group}>
          {of === 'class' ? null : <Heading level={2}>{one.name}</Heading>}
          {one.now ? <Unit unit={one.now} level={of === 'class' ? 2 : 3} now /> : null}
          {one.units.map((unit) => (
            <Unit key={unit.name} unit={unit} level={of === 'class' ? 2 : 3} />
          ))}
        </View>
      ))}
      <LanguageChoice />
    </Screen>
  );
};

/** Films of a unit; what is on now says so. */
const Unit = ({
  unit: { name, films },
  level,
  now = false,
}: {
  unit: PageUnit;
  level: 2 | 3;
  now?: boolean;
}) => {
  const { t } = useText();
  const unnamed = t(now ? 'studentPage.now' : 'studentPage.more');
  const heading = name === '' ? unnamed : now ? t('studentPage.nowUnit', { unit: name }) : name;
  return (
    <View style={styles.unit}>
      <Heading level={level}>{heading}</Heading>
      <Tiles films={films} of={heading} large={now} />
    </View>
  );
};

const Tiles = ({
  films,
  of,
  large = false,
}: {
  films: readonly PageFilm[];
  of: string;
  large?: boolean;
}) => {
  const { width } = useWindowDimensions();
  return (
    <View role="list" aria-label={of} style={width >= WIDE ? styles.grid : styles.list}>
      {films.map((film, index) => (
        <FilmTile key={film.token ?? `${index} ${film.title}`} film={film} large={large} />
      ))}
    </View>
  );
};

const styles = StyleSheet.create({
  head: { gap: SPACE.hair },
  group: { gap: SPACE.medium },
  unit: { gap: SPACE.small },
  list: { gap: SPACE.small },
  grid: {
    gap: SPACE.medium,
    ...({
      display: 'grid',
      gridTemplateColumns: 'repeat(auto-fill, minmax(340px, 1fr))',
    } as object),
  },
});
