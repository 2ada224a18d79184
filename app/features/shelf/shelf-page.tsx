import { StyleSheet, useWindowDimensions, View } from 'react-native';
import type { Shelf, ShelfFilm, ShelfUnit } from '@under-chalk/core/contract/student-pages';
import { tell } from '@under-chalk/core/errors/errors';
import { codeOf } from '../../data/fetch';
import { Notice } from '../../ui/notice';
import { Failed, Loading, Screen } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { SPACE, WIDE } from '../../ui/theme';
import { AskNumber } from './ask-number';
import { FilmTile } from './film-tile';
import { useShelf } from './shelf-data';

interface Props {
  /** The unguessable part of the page's address. */
  readonly pageKey: string;
  /** What the page was served with. */
  readonly served?: Shelf | undefined;
}

/** A student's own page: this week on top, everything else below by unit. */
export const ShelfPage = ({ pageKey, served }: Props) => {
  const shelf = useShelf(pageKey, served);
  const code = shelf.error ? codeOf(shelf.error) : null;
  // What was there stays as long as nobody can be asked; not when it was taken away.
  const isShut = code === 'no-page' || code === 'number-needed';
  if (shelf.data && !isShut) return <Shown shelf={shelf.data} />;
  return (
    <Screen name="Your films">
      <Heading level={1}>Your films</Heading>
      {code === 'number-needed' ? (
        <AskNumber pageKey={pageKey} />
      ) : code === 'no-page' ? (
        <Notice tone="warn" title={tell(code).sentence} text={tell(code).next} />
      ) : code ? (
        <Failed code={code} onRetry={() => void shelf.refetch()} />
      ) : (
        <Loading what="your films" />
      )}
    </Screen>
  );
};

const Shown = ({ shelf: { of, name, teacherName, classes, own } }: { shelf: Shelf }) => (
  <Screen name={of === 'class' ? name : `Films for ${name}`} wide>
    <View style={styles.head}>
      <Heading level={1}>{of === 'class' ? name : `Films for ${name}`}</Heading>
      {teacherName ? <Words tone="soft">{`From ${teacherName}`}</Words> : null}
    </View>
    {classes.length === 0 && own.length === 0 ? (
      <Notice
        title="There is nothing here yet."
        text="What your teacher hands out comes here by itself."
      />
    ) : null}
    {own.length > 0 ? (
      <View style={styles.group}>
        <Heading level={2}>For you</Heading>
        <Tiles films={own} />
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
  </Screen>
);

/** Films of a unit; what is on now says so. */
const Unit = ({
  unit: { name, films },
  level,
  now = false,
}: {
  unit: ShelfUnit;
  level: 2 | 3;
  now?: boolean;
}) => {
  const heading = name === '' ? (now ? 'Now' : 'More films') : now ? `Now: ${name}` : name;
  return (
    <View style={styles.unit}>
      <Heading level={level}>{heading}</Heading>
      <Tiles films={films} of={heading} large={now} />
    </View>
  );
};

const Tiles = ({
  films,
  of = 'For you',
  large = false,
}: {
  films: readonly ShelfFilm[];
  of?: string;
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
