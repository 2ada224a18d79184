import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { filmTimeOf, filmTimeFrom, type Film } from '@under-chalk/core/film/film';
import { strokesInWords } from '@under-chalk/core/ink/in-words';
import { NO_PAGE, pageNameAt, type Stroke } from '@under-chalk/core/ink/ink-track';
import { runsOf, type Run } from '@under-chalk/core/ink/runs';
import type { Appearing } from '@under-chalk/core/ink/written-after';
import type { InkChange } from '@under-chalk/core/ink/change';
import type { Edit } from '@under-chalk/core/edit/edit';
import { formatTenths } from '@under-chalk/core/time/us';
import { useEdits } from '../../../data/edits';
import { usePart } from '../../../data/live-value';
import type { FilmPlayer } from '../../../player/film-player';
import { Button } from '../../../ui/button';
import { ChoiceLine } from '../../../ui/choice-line';
import { Choices } from '../../../ui/choices';
import { Row } from '../../../ui/row';
import { Heading, Words } from '../../../ui/text';
import { SPACE } from '../../../ui/theme';
import { BoardTools, WidthButton } from '../../board/board-tools';
import { StayingChoice, stayingWords } from '../../board/staying-choice';
import { useTidy, useTidying } from '../tidying';
import type { FilmWriting } from './film-writing';
import { SelectedStrokes } from './selected-strokes';
import { writtenOnAt } from './writing-layer';

const APPEARING: readonly {
  readonly value: string;
  readonly label: string;
  readonly is: Appearing;
}[] = [
  { value: 'at-once', label: 'at once', is: 'at-once' },
  { value: 'as-drawn', label: 'as you draw it', is: 'as-drawn' },
  { value: '2', label: 'within 2 seconds', is: 2_000_000 },
  { value: '5', label: 'within 5 seconds', is: 5_000_000 },
];

interface Props {
  readonly film: Film;
  readonly player: FilmPlayer;
  readonly writing: FilmWriting;
  readonly onDone: () => void;
}

/** Writing on the film, and changing what is written: what the hand does, and to what. */
export const WritingPanel = ({ film, player, writing, onDone }: Props) => {
  const { board } = writing;
  const here = useTidy((view) => view.here);
  const playing = useTidy((view) => view.playing);
  const inkOf = usePart(player, () => player.inkOf);
  const selected = usePart(board, (view) => view.selected);
  const stays = usePart(board, (view) => view.stays);
  const [appearing, setAppearing] = useState('at-once');
  const [asked, setAsked] = useState(0);
  const track = here ? inkOf(here.takeId) : null;
  const page = here && track ? pageNameAt(track, here.takeUs) : NO_PAGE;
  const runs = track ? runsOf(track, page) : [];
  const canWrite = here !== null && writtenOnAt(film, here) !== null;
  return (
    <View style={styles.panel}>
      <View style={styles.head}>
        <Heading level={2} style={styles.grow}>
          Write on the picture
        </Heading>
        <Button small label="Done writing" onPress={onDone} />
      </View>
      {canWrite ? (
        <>
          <BoardTools board={board} bare />
          {selected > 0 && track && here ? (
            <SelectedStrokes
              film={film}
              writing={writing}
              track={track}
              place={here}
              asked={asked}
            />
          ) : (
            <View style={styles.group}>
              <View style={styles.line}>
                <Words size="small" tone="soft" style={styles.grow}>
                  {playing
                    ? 'It plays: what you draw comes when you draw it.'
                    : 'What you draw comes here. Play, to draw while it plays.'}
                </Words>
                <View>
                  <WidthButton board={board} />
                </View>
              </View>
              <ChoiceLine
                label="What you write appears"
                value={APPEARING.find(({ value }) => value === appearing)!.label}
              >
                <Choices
                  label="What you write appears"
                  hideLabel
                  choices={APPEARING}
                  value={appearing}
                  onChoose={(chosen) => {
                    setAppearing(chosen);
                    writing.appear(APPEARING.find(({ value }) => value === chosen)!.is);
                  }}
                />
              </ChoiceLine>
              <ChoiceLine label="It stays" value={stayingWords(stays)}>
                <StayingChoice board={board} />
              </ChoiceLine>
            </View>
          )}
        </>
      ) : (
        <Words tone="soft">
          Here only the camera is shown. Go to a place where the screen or the board is, to write on
          it.
        </Words>
      )}
      {runs.length > 0 && here ? (
        <View style={styles.group}>
          <Heading level={3}>On this page</Heading>
          <View role="list" aria-label="Written on this page" style={styles.group}>
            {runs.map((run) => (
              <RunRow
                key={`${run.startUs} ${run.strokes[0] ?? run.gone[0]}`}
                film={film}
                takeId={here.takeId}
                run={run}
                strokes={track!.strokes}
                onSelect={(ids) => {
                  writing.select(ids);
                  setAsked(asked + 1);
                }}
              />
            ))}
          </View>
        </View>
      ) : null}
    </View>
  );
};

interface RunProps {
  readonly film: Film;
  readonly takeId: string;
  readonly run: Run;
  readonly strokes: readonly Stroke[];
  readonly onSelect: (ids: readonly string[]) => void;
}

/** What was written in one go: shown and selected by a press. */
const RunRow = ({ film, takeId, run, strokes, onSelect }: RunProps) => {
  const tidying = useTidying();
  const { put } = useEdits();
  const at = formatTenths(filmTimeFrom(film, { takeId, takeUs: run.startUs }));
  const [first] = run.strokes;
  const pen = strokes.find(({ id }) => id === first)?.pen;
  const count = strokesInWords(run.strokes.length);
  const colour = pen && pen.colour !== 'main' ? `, ${pen.colour}` : '';
  const what = `${run.says === '' ? '' : `“${run.says}”, `}${count}${colour}`;
  const bring: Edit = {
    ...{ do: 'change-ink', takeId, strokes: run.gone },
    change: { gone: false } satisfies InkChange,
  };
  return (
    <Row>
      <Words style={styles.grow}>
        {run.strokes.length > 0 ? `${at} · ${what}` : `${at} · taken away`}
      </Words>
      {run.strokes.length > 0 ? (
        <Button
          small
          label="Select"
          spoken={`Select what was written at ${at}: ${what}`}
          onPress={() => {
            // To where all of it is there; where that was cut out, to what comes next.
            const place = { takeId, takeUs: run.endUs + 40_000 };
            const filmUs = filmTimeOf(film, place) ?? filmTimeFrom(film, place);
            tidying.goTo(filmUs);
            onSelect(run.strokes);
          }}
        />
      ) : null}
      {run.gone.length > 0 ? (
        <Button
          small
          label={run.gone.length === 1 ? 'Bring back' : `Bring back ${run.gone.length}`}
          spoken={`Bring back ${run.gone.length === 1 ? 'a stroke' : `${run.gone.length} strokes`} taken away at ${at}`}
          onPress={() => put(bring)}
        />
      ) : null}
    </Row>
  );
};

const styles = StyleSheet.create({
  panel: { gap: SPACE.medium },
  group: { gap: SPACE.small },
  head: { flexDirection: 'row', alignItems: 'center', gap: SPACE.small },
  line: { flexDirection: 'row', alignItems: 'center', gap: SPACE.small },
  grow: { flexGrow: 1, flexShrink: 1 },
});
