import { useMemo } from 'react';
import { StyleSheet, useWindowDimensions, View } from 'react-native';
import { stepInWords, type Step } from '@under-chalk/core/edit/steps';
import { filmOf } from '@under-chalk/core/film/film';
import { takeOf, type Lesson } from '@under-chalk/core/lesson/lesson';
import { useEdits } from '../../data/edits';
import { FilmView } from '../../player/film-view';
import { useFilmPlayer } from '../../player/use-film-player';
import { Button } from '../../ui/button';
import { Choices } from '../../ui/choices';
import { Notice } from '../../ui/notice';
import { Screen } from '../../ui/screen';
import { Heading } from '../../ui/text';
import { SPACE, useTheme, WIDE } from '../../ui/theme';
import { LessonGauge } from '../destinations/lesson-gauge';
import { LessonHead, useGoTo, useThisLesson } from '../lessons/lesson-layout';
import { InsetHandle } from './inset-handle';
import { TakeColumn } from './take-column';
import { TidyingContext, useNewTidying, useTidy } from './tidying';

const CHANGES = [
  { value: '0', label: 'at once' },
  { value: '500000', label: 'soft' },
  { value: '1000000', label: 'slow' },
];

/** Tidy: the lesson as a column of beats, read from top to bottom, with its picture beside it. */
export const TidyPage = () => {
  const view = useThisLesson();
  const { lesson } = view;
  const { put } = useEdits();
  const goTo = useGoTo();
  const theme = useTheme();
  const { width } = useWindowDimensions();
  const wide = width >= WIDE;
  const film = useMemo(() => filmOf(lesson), [lesson]);
  const player = useFilmPlayer(film);
  const tidying = useNewTidying(player);
  const columns = film.placed.flatMap((placed, at) => {
    const take = takeOf(lesson, placed.takeId);
    return take && take.state !== 'unusable' ? [{ placed, at, take }] : [];
  });

  return (
    <TidyingContext.Provider value={tidying}>
      <Screen
        name={`Tidy · ${lesson.decisions.plan.title}`}
        wide
        head={<LessonHead />}
        foot={
          <>
            <TurnBack label="Undo" step={view.steps.undo.at(-1)} act="undo" />
            <TurnBack label="Redo" step={view.steps.redo.at(-1)} act="redo" />
            <Button kind="main" grow label="Last look" onPress={() => goTo('last-look')} />
          </>
        }
      >
        <Heading level={1}>Tidy</Heading>
        {columns.length === 0 ? (
          <Notice
            title="There is nothing to tidy yet."
            text="Record something, or bring in a film."
          >
            <Button label="Go to Record" onPress={() => goTo('record')} />
          </Notice>
        ) : (
          <View style={wide ? styles.beside : styles.stack}>
            <View
              style={[
                wide ? styles.pictureBeside : styles.pictureAbove,
                { backgroundColor: theme.paper },
              ]}
            >
              <FilmView player={player}>
                <HandleHere lesson={lesson} />
              </FilmView>
              <LessonGauge
                usedUs={film.durationUs}
                destinationId={lesson.decisions.plan.destinationId}
              />
            </View>
            <View style={[wide ? styles.column : null, styles.stack]}>
              <Choices
                label="When the arrangement changes, it changes"
                choices={CHANGES}
                value={String(lesson.decisions.changeUs)}
                onChoose={(value) => put({ do: 'soften', changeUs: Number(value) })}
              />
              {columns.map(({ placed, take }, index) => (
                <TakeColumn
                  key={placed.id}
                  lesson={lesson}
                  placed={placed}
                  film={film}
                  take={take}
                  number={index + 1}
                  upTo={columns[index - 1]?.at ?? null}
                  downTo={columns[index + 1]?.at ?? null}
                />
              ))}
            </View>
          </View>
        )}
      </Screen>
    </TidyingContext.Provider>
  );
};

/** The inset of what is shown, while it stands still. */
const HandleHere = ({ lesson }: { lesson: Lesson }) => {
  const here = useTidy((view) => (view.playing ? null : view.here));
  return here ? <InsetHandle key={here.takeId} lesson={lesson} place={here} /> : null;
};

/** Takes the last step back, or brings it back; a screen reader hears which. */
const TurnBack = ({ label, step, act }: { label: string; step?: Step; act: 'undo' | 'redo' }) => {
  const { put } = useEdits();
  return (
    <Button
      label={label}
      spoken={step ? `${label}: ${stepInWords(step)}` : label}
      disabled={!step}
      onPress={() => step && put({ do: act, entries: [...step.entries] })}
    />
  );
};

const sticky = { position: 'sticky', top: 0, zIndex: 2 } as object;

const styles = StyleSheet.create({
  stack: { gap: SPACE.large },
  beside: { flexDirection: 'row', gap: SPACE.wide, alignItems: 'flex-start' },
  pictureBeside: { flex: 1.15, gap: SPACE.small, paddingTop: SPACE.small, ...sticky },
  pictureAbove: { gap: SPACE.hair, paddingBottom: SPACE.small, ...sticky },
  column: { flex: 1 },
});
