import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Image, StyleSheet, View } from 'react-native';
import { placedIn, placeOfTake } from '@under-chalk/core/lesson/lesson';
import { canProcessAgain } from '@under-chalk/core/lesson/incomplete-take';
import { takeNames } from '@under-chalk/core/lesson/take-names';
import { movedTo, type Placed } from '@under-chalk/core/lesson/placement';
import type { Take, TakeSource } from '@under-chalk/core/lesson/take';
import { formatSpoken } from '@under-chalk/core/time/us';
import { errorText } from '@under-chalk/core/errors/errors';
import { isHeld } from '../../capture/store/take-lock';
import { call } from '../../data/client';
import { useEdits } from '../../data/edits';
import { KEYS } from '../../data/queries';
import { Button } from '../../ui/button';
import { Menu } from '../../ui/menu';
import { Heading, Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';
import { DeletedRow, type Gone } from '../bin/deleted-row';
import { useThisLesson } from '../lessons/lesson-layout';
import { stillPath } from '../lessons/still-path';
import { ProcessAgainButton } from './process-again-button';

const SOURCES: Record<TakeSource, string> = {
  screen: 'screen',
  camera: 'camera',
  sound: 'sound',
  film: 'film brought in',
  board: 'board',
};

interface Props {
  /** Asks for a take to be recorded again. */
  readonly onRedo: (take: { takeId: string; name: string }) => void;
}

/** What has been recorded for this lesson, in the order of the film; then what was left out. */
export const TakeList = ({ onRedo }: Props) => {
  const { lesson, making } = useThisLesson();
  const film = placedIn(lesson);
  const at = (take: Take) => film.findIndex((placed) => placed.takeId === take.id);
  const rank = (take: Take) => (at(take) < 0 ? film.length : at(take));
  const takes = [...lesson.takes].sort((a, b) => rank(a) - rank(b));
  const names = takeNames(lesson);
  const [gone, setGone] = useState<Gone | null>(null);
  if (takes.length === 0 && !gone) return null;
  return (
    <View style={styles.group}>
      <Heading level={2}>Takes</Heading>
      {gone ? <DeletedRow gone={gone} onBack={() => setGone(null)} /> : null}
      <View role="list" style={styles.group}>
        {takes.map((take) => (
          <TakeRow
            key={take.id}
            take={take}
            name={names.get(take.id)!}
            at={at(take)}
            film={film}
            place={placeOfTake(lesson, take.id)}
            made={making[take.id] ?? null}
            onRedo={onRedo}
            onThrowAway={() => setGone({ kind: 'take', id: take.id, name: names.get(take.id)! })}
          />
        ))}
      </View>
    </View>
  );
};

interface RowProps extends Props {
  readonly onThrowAway: () => void;
  readonly take: Take;
  readonly name: string;
  /** Its place in the film, from 0; negative when it is left out. */
  readonly at: number;
  /** What stands in the film. */
  readonly film: readonly Placed[];
  /** Its place, in the film or left out of it; null when it has none. */
  readonly place: Placed | null;
  /** How much of it has been made ready, 0 to 1; null while it waits for that, or needs none. */
  readonly made: number | null;
}

const TakeRow = (props: RowProps) => {
  const { take, name, at, film, place, made, onRedo, onThrowAway } = props;
  const theme = useTheme();
  const { put } = useEdits();
  const { lesson } = useThisLesson();
  const placed = at >= 0;
  const placement = film[at] ?? place ?? { id: take.id, takeId: take.id };
  const move = (to: number | null) =>
    put({ do: 'place', placement: movedTo(placement, film, to), arrives: false });
  const pictured = take.tracks.some((track) => track.widthPx > 0);
  return (
    <View
      role="listitem"
      style={[styles.row, { borderColor: theme.line, backgroundColor: theme.card }]}
    >
      {take.state === 'ready' && pictured ? (
        <Image
          source={{
            uri: stillPath(lesson, take, take.durationUs / 2),
          }}
          style={[styles.picture, { backgroundColor: theme.line }]}
          alt=""
        />
      ) : (
        <View style={[styles.picture, { backgroundColor: theme.line }]} />
      )}
      <View style={styles.words}>
        <Words strong>{`${name} · ${SOURCES[take.source]}`}</Words>
        <StateWords
          take={take}
          placed={placed}
          over={lesson.decisions.voiceOvers.some(({ by }) => by.takeId === take.id)}
          made={made}
        />
      </View>
      {take.state === 'recording' ? <KeepTorn take={take} /> : null}
      {take.state === 'processing' && take.source === 'film' ? (
        <ProcessAgainButton take={take} name={name} doing="cancelTake" />
      ) : null}
      {canProcessAgain(take) ? (
        <ProcessAgainButton take={take} name={name} doing="processTake" />
      ) : null}
      {take.state === 'ready' ? (
        placed ? (
          <View style={styles.buttons}>
            {at > 0 ? (
              <Button
                small
                label="Earlier"
                spoken={`Put ${name} earlier`}
                onPress={() => move(at - 1)}
              />
            ) : null}
            {at < film.length - 1 ? (
              <Button
                small
                label="Later"
                spoken={`Put ${name} later`}
                onPress={() => move(at + 1)}
              />
            ) : null}
            {take.source === 'film' ? null : (
              <Button
                small
                label="Again"
                spoken={`Record ${name} again`}
                onPress={() => onRedo({ takeId: take.id, name })}
              />
            )}
            <Button
              small
              label="Leave out"
              spoken={`Leave ${name} out of the film`}
              onPress={() => put({ do: 'exclude-take', placementId: placement.id })}
            />
          </View>
        ) : (
          <Button
            small
            label="Put in"
            spoken={`Put ${name} into the film`}
            onPress={() =>
              place ? put({ do: 'include-take', placementId: place.id }) : move(null)
            }
          />
        )
      ) : null}
      {take.state === 'recording' ? null : (
        <Menu of={name} items={[{ label: 'Delete', onPress: onThrowAway, grave: true }]} />
      )}
    </View>
  );
};

interface StateProps extends Pick<RowProps, 'take' | 'made'> {
  readonly placed: boolean;
  /** It is spoken over another take. */
  readonly over: boolean;
}

const StateWords = ({ take, placed, over, made }: StateProps) => {
  if (take.state === 'recording') return <Words size="small">Being recorded.</Words>;
  if (take.state === 'processing') {
    const share = made === null ? 'it waits for its turn' : `${Math.floor(made * 100)} %`;
    return <Words size="small">{`Being made ready · ${share}`}</Words>;
  }
  if (take.state === 'unusable') {
    const told = errorText(take.problem ?? 'unexpected');
    return (
      <Words size="small" tone={take.problem === 'called-off' ? 'soft' : 'bad'}>
        {`${told.message} ${told.hint}`}
      </Words>
    );
  }
  if (take.problem) {
    const told = errorText(take.problem);
    return (
      <Words size="small" tone="warn">
        {`${formatSpoken(take.durationUs)} · ${told.message} ${told.hint}`}
      </Words>
    );
  }
  const parts = [
    formatSpoken(take.durationUs),
    take.cutShort ? 'ended without the stop button; all that had arrived is here' : null,
    placed ? null : over ? 'heard over another take' : 'left out of the film',
  ].filter(Boolean);
  return (
    <Words size="small" tone="soft">
      {parts.join(' · ')}
    </Words>
  );
};

/** A take that nobody in this browser is recording was torn off: it can be kept at once. */
const KeepTorn = ({ take }: { take: Take }) => {
  const [torn, setTorn] = useState(false);
  const client = useQueryClient();
  const { lesson } = useThisLesson();
  useEffect(() => {
    let gone = false;
    void isHeld(take.id).then((here) => {
      if (!gone) setTorn(!here);
    });
    return () => {
      gone = true;
    };
  }, [take.id]);
  if (!torn) return null;
  const keep = async () => {
    await call('stopTake', { params: { takeId: take.id }, body: { cutShort: true } });
    await client.invalidateQueries({ queryKey: KEYS.lesson(lesson.id) });
  };
  return <Button small label="Keep what there is" onPress={() => void keep()} />;
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  row: {
    flexDirection: 'row',
    alignItems: 'center',
    gap: SPACE.medium,
    borderWidth: 1,
    borderRadius: RADIUS.medium,
    padding: SPACE.small,
    flexWrap: 'wrap',
  },
  picture: { width: 96, aspectRatio: 16 / 9, borderRadius: RADIUS.small },
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
  words: { flexGrow: 1, flexShrink: 1, flexBasis: 120 },
});
