import { middleOf } from '@under-chalk/core/time/ranges';
import { useEffect, useRef, useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { sizeOf } from '@under-chalk/core/destination/picture-size';
import { filmTimeFrom, type Film } from '@under-chalk/core/film/film';
import { layoutAt, closeUpAt } from '@under-chalk/core/film/sections';
import {
  isCloser,
  MOST_BLOWN_UP,
  shareOf,
  type CloseUp,
  type Pace,
} from '@under-chalk/core/lesson/close-up';
import { UNCROPPED } from '@under-chalk/core/lesson/crop';
import { cropOf } from '@under-chalk/core/lesson/lesson';
import { surfaceOf, trackOf, type Take } from '@under-chalk/core/lesson/take';
import { blownUp } from '@under-chalk/core/scene/framed';
import { useEdits } from '../../data/edits';
import { Button } from '../../ui/button';
import { Choices } from '../../ui/choices';
import { focusOn, useFocusWhen } from '../../ui/focus';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { useDestination } from '../destinations/lesson-gauge';
import { DrawnPart } from './drawn-part';
import type { OpenStretch } from './open-stretch';
import { useTidying } from './tidying';

const PACES: { value: Pace; label: string }[] = [
  { value: 'quick', label: 'quickly' },
  { value: 'middling', label: 'at a middling pace' },
  { value: 'unhurried', label: 'unhurried' },
];

/** How many times as large something is seen, in words: `2.5 times as large`. */
const timesInWords = (times: number): string =>
  `${times.toFixed(1).replace('.0', '')} times as large`;

interface Props {
  readonly film: Film;
  readonly take: Take;
  readonly stretch: OpenStretch;
}

/** Comes closer to a part of the surface for a stretch: drawn on a picture of all of it. */
export const CloseUpPanel = ({ film, take, stretch }: Props) => {
  const { put } = useEdits();
  const tidying = useTidying();
  const { lesson } = film;
  const middleUs = middleOf(stretch);
  const closeUp = closeUpAt(lesson, take, middleUs);
  const [drawing, setDrawing] = useState(false);
  const [closed, setClosed] = useState(0);
  const opener = useRef<View>(null);
  // The focus comes back to where the drawing was opened.
  useEffect(() => {
    if (closed > 0) focusOn(opener.current);
  }, [closed]);
  if (!surfaceOf(take) && !trackOf(take, 'camera')) return null;
  const { takeId, placementId, startUs, endUs } = stretch;
  const come = (chosen: CloseUp | null) => {
    // Where it can be seen: at its beginning the picture is still on the way.
    tidying.goTo(filmTimeFrom(film, { takeId, placementId, takeUs: middleUs }));
    put({ do: 'set-close-up', takeId, startUs, endUs, closeUp: chosen });
    setDrawing(false);
    setClosed(closed + 1);
  };
  if (drawing) {
    return (
      <Drawing
        {...{ film, take, stretch, middleUs }}
        first={closeUp}
        onDraw={come}
        onLeave={() => {
          setDrawing(false);
          setClosed(closed + 1);
        }}
      />
    );
  }
  const crop = cropOf(lesson, take.id);
  return (
    <View style={styles.buttons}>
      <Button
        ref={opener}
        small
        label={closeUp ? 'Change zoom' : 'Zoom in'}
        onPress={() => setDrawing(true)}
      />
      {closeUp ? (
        <>
          <Button small label="See all of it again" onPress={() => come(null)} />
          <Words size="small" tone="soft" role="status">
            {`Seen ${timesInWords(1 / shareOf(crop, closeUp.part))}.`}
          </Words>
        </>
      ) : null}
    </View>
  );
};

interface DrawingProps extends Props {
  readonly middleUs: number;
  readonly first: CloseUp | null;
  readonly onDraw: (closeUp: CloseUp) => void;
  readonly onLeave: () => void;
}

const Drawing = ({ film: { lesson }, take, middleUs, first, onDraw, onLeave }: DrawingProps) => {
  const crop = cropOf(lesson, take.id);
  const [part, setPart] = useState(first?.part ?? crop);
  const [pace, setPace] = useState<Pace>(first?.pace ?? 'middling');
  const heading = useFocusWhen(true);
  const destination = useDestination(lesson.decisions.plan.destinationId);
  const closeUp: CloseUp = { part, pace };
  const framing = { layout: layoutAt(lesson, take, middleUs), closeUp };
  const { widthPx } = sizeOf(lesson, destination.size);
  const soft = blownUp(lesson, take, framing, widthPx);
  const share = shareOf(crop, part);
  const closer = isCloser(crop, part);
  const said = closer
    ? `Seen ${timesInWords(1 / share)}.`
    : 'Draw round what is to be seen closer.';
  return (
    <View style={styles.group}>
      <View ref={heading} tabIndex={-1}>
        <Words>
          Draw round it, or pull it closer with two fingers. Each edge can also be moved with the
          arrow keys.
        </Words>
      </View>
      <DrawnPart
        {...{ lesson, take, part }}
        atUs={middleUs}
        alt="The picture in the middle of what is chosen"
        onPart={setPart}
      />
      <Words size="small" tone="soft" role="status">
        {said}
      </Words>
      {closer && soft !== null && soft > MOST_BLOWN_UP ? (
        <Words size="small" tone="warn" role="status">
          {`It is recorded too coarsely for that: each of its points becomes ${soft.toFixed(1)} wide in the film, and looks soft.`}
        </Words>
      ) : null}
      <Choices label="It comes closer" choices={PACES} value={pace} onChoose={setPace} />
      <View style={styles.buttons}>
        <Button
          small
          kind="main"
          label="Come this close"
          disabled={!closer}
          onPress={() => onDraw(closeUp)}
        />
        <Button small label="Whole picture" onPress={() => setPart(UNCROPPED)} />
        <Button small label="Leave it as it was" onPress={onLeave} />
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small, alignItems: 'center' },
});
