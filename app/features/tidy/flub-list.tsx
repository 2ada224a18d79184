import { StyleSheet, View } from 'react-native';
import { filmTimeOf, type Film } from '@under-chalk/core/film/film';
import { takeNameOf } from '@under-chalk/core/lesson/take-names';
import { formatTenths } from '@under-chalk/core/time/us';
import { useEdits } from '../../data/edits';
import { Button } from '../../ui/button';
import { Row } from '../../ui/row';
import { Heading, Words } from '../../ui/text';
import { SPACE, useTheme } from '../../ui/theme';
import { useTidying } from './tidying';

/** Before the mark there is what went wrong: a mark is shown with so much of it, µs. */
const BEFORE_US = 3_000_000;

/** Marks: set while recording, that something went wrong there, or set here to come back to; taken away when they are done with. */
export const FlubList = ({ film }: { film: Film }) => {
  const theme = useTheme();
  const tidying = useTidying();
  const { put } = useEdits();
  const { lesson } = film;
  const marks = lesson.decisions.flubs
    .flatMap(({ takeId, atUs }) => {
      const filmUs = filmTimeOf(film, { takeId, takeUs: atUs });
      return filmUs === null ? [] : [{ takeId, atUs, filmUs }];
    })
    .sort((a, b) => a.filmUs - b.filmUs);
  if (marks.length === 0) return null;
  return (
    <View style={styles.group}>
      <Heading level={2}>Marks</Heading>
      <View role="list" aria-label="Marks" style={styles.group}>
        {marks.map(({ takeId, atUs, filmUs }) => {
          const at = formatTenths(filmUs);
          return (
            <Row key={`${takeId} ${atUs}`} marked={theme.warn}>
              <Words style={styles.words}>{`${at} · ${takeNameOf(lesson, takeId)}`}</Words>
              <Button
                small
                label="Go there"
                spoken={`Go to the mark at ${at}`}
                onPress={() => tidying.goTo(Math.max(0, filmUs - BEFORE_US))}
              />
              <Button
                small
                label="Done with"
                spoken={`Done with the mark at ${at}`}
                onPress={() => put({ do: 'unmark-flub', takeId, atUs })}
              />
            </Row>
          );
        })}
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.hair },
  words: { flexGrow: 1 },
});
