import { useMemo, useState } from 'react';
import { StyleSheet, View } from 'react-native';
import type { Steps } from '@under-chalk/core/edit/steps';
import { comingTakes } from '@under-chalk/core/lesson/take-names';
import { filmOf, type Film } from '@under-chalk/core/film/film';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import { FilmView } from '../../player/film-view';
import type { FilmPlayer } from '../../player/film-player';
import { useFilmPlayer } from '../../player/use-film-player';
import { Button } from '../../ui/button';
import { useLayout } from '../../ui/layout';
import { Notice } from '../../ui/notice';
import { Screen } from '../../ui/screen';
import { Heading } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { LessonGauge } from '../destinations/lesson-gauge';
import { GettingReady } from '../lessons/getting-ready';
import { LessonHead, useGoTo, useThisLesson } from '../lessons/lesson-layout';
import { PictureBeside } from '../lessons/picture-beside';
import { UndoRedo } from '../lessons/undo-redo';
import { TitleCards } from './title-cards';
import { CarriedBar } from './carried-bar';
import { ChosenBar } from './chosen-bar';
import { FlubList } from './flub-list';
import { FrameChoice } from './frame-choice';
import { InsetHandle } from './inset-handle';
import { PointerLookChoice } from './pointer-look';
import { ScreenPointerChoice } from './screen-pointer';
import { TakeColumn } from './take-column';
import { TidyingContext, useNewTidying, useTidy } from './tidying';
import { WatermarkChoice } from './watermark-choice';
import { HistoryList } from './history-list';
import { useColumns, type Column } from './use-columns';
import { useFilmWriting } from './writing/use-film-writing';
import { WritingLayer } from './writing/writing-layer';
import { TransitionChoice } from './transition-choice';
import { ZoomGesture } from './zoom-gesture';
import { WritingPanel } from './writing/writing-panel';

/** Tidy: the lesson as a column of phrases, read from top to bottom, with its picture beside it. */
export const TidyPage = () => {
  const view = useThisLesson();
  const { lesson } = view;
  const goTo = useGoTo();
  const film = useMemo(() => filmOf(lesson), [lesson]);
  const player = useFilmPlayer(film);
  const tidying = useNewTidying(player);
  const columns = useColumns(film);
  const writing = useFilmWriting(player);
  const [writes, setWrites] = useState(false);
  const mostHigh = useMostHigh();
  return (
    <TidyingContext.Provider value={tidying}>
      <Screen
        name={`Tidy · ${lesson.decisions.plan.title}`}
        wide
        head={<LessonHead />}
        foot={
          <>
            <ChosenBar columns={columns} />
            <CarriedBar film={film} columns={columns} />
            <UndoRedo film={film} steps={view.steps} />
            <Button kind="main" grow label="Last look" onPress={() => goTo('last-look')} />
          </>
        }
      >
        <GettingReady view={view} />
        {columns.length === 0 ? (
          <>
            <Heading level={1}>Tidy</Heading>
            <Notice
              title="There is nothing to tidy yet."
              text="Record something, or bring in a film."
            >
              <Button label="Go to Record" onPress={() => goTo('record')} />
            </Notice>
          </>
        ) : (
          <PictureAndColumn
            film={film}
            player={player}
            columns={columns}
            steps={view.steps}
            write={() => setWrites(true)}
            panel={
              writes ? (
                <WritingPanel
                  film={film}
                  player={player}
                  writing={writing}
                  onDone={() => setWrites(false)}
                />
              ) : null
            }
          >
            {film.spans.length === 0 && comingTakes(lesson).length > 0 ? null : (
              <FilmView player={player} mostHigh={mostHigh}>
                {writes ? (
                  <WritingLayer film={film} player={player} writing={writing} />
                ) : (
                  <>
                    <ZoomGesture film={film} columns={columns} />
                    <HandleHere lesson={lesson} />
                  </>
                )}
              </FilmView>
            )}
          </PictureAndColumn>
        )}
      </Screen>
    </TidyingContext.Provider>
  );
};

interface PartsProps {
  readonly film: Film;
  readonly player: FilmPlayer;
  readonly columns: readonly Column[];
  readonly steps: Steps;
  readonly write: () => void;
  /** Stands in place of the column. */
  readonly panel: React.ReactNode;
  readonly children: React.ReactNode;
}

/** Share of the height that what stays above the column may take. */
const MOST_SHARE = 0.4;
/** Share of the height that the picture itself may take above the column. */
const MOST_UPRIGHT = 0.42;
/** Beside the column, the picture leaves room for the bar under it, px. */
const UNDER_PICTURE = 260;
const UNDER_PICTURE_LOW = 190;

/** The picture, and the lesson as a column of phrases. */
const PictureAndColumn = (props: PartsProps) => {
  const { film, steps, player, columns, write, panel, children } = props;
  const { lesson } = film;
  return (
    <PictureBeside
      title="Tidy"
      mostShare={MOST_SHARE}
      wide={1.5}
      picture={
        <>
          {children}
          <LessonGauge
            usedUs={film.durationUs}
            destinationId={lesson.decisions.plan.destinationId}
          />
        </>
      }
      column={(covered) =>
        panel ?? (
          <>
            <View style={styles.tools}>
              <Button small grow label="Write on the picture" onPress={write} />
              <HistoryList film={film} steps={steps} />
            </View>
            <FlubList film={film} />
            {columns.map((column, index) => (
              <TakeColumn
                key={column.placed.id}
                lesson={lesson}
                film={film}
                column={column}
                upTo={columns[index - 1]?.at ?? null}
                downTo={columns[index + 1]?.at ?? null}
                covered={covered}
              />
            ))}
            <TitleCards lesson={lesson} />
            <TransitionChoice lesson={lesson} />
            <FrameChoice lesson={lesson} />
            <WatermarkChoice lesson={lesson} />
            <PointerLookChoice film={film} player={player} />
            <ScreenPointerChoice film={film} player={player} />
          </>
        )
      }
    />
  );
};

/** How high the picture may be, px: below it, or under its bar, there has to be room for what is worked on. */
const useMostHigh = (): number => {
  const { beside, low, height } = useLayout();
  if (!beside) return height * MOST_UPRIGHT;
  return Math.max(135, height - (low ? UNDER_PICTURE_LOW : UNDER_PICTURE));
};

/** The inset of what is shown, while it stands still. */
const HandleHere = ({ lesson }: { lesson: Lesson }) => {
  const here = useTidy((view) => (view.playing ? null : view.here));
  return here ? <InsetHandle key={here.takeId} lesson={lesson} place={here} /> : null;
};

const styles = StyleSheet.create({
  tools: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
