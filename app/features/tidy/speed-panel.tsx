import { middleOf } from '@under-chalk/core/time/ranges';
import { View } from 'react-native';
import type { Film } from '@under-chalk/core/film/film';
import { filmTimeFrom } from '@under-chalk/core/film/film';
import { isHeardAt, rateOf, RECORDED_SPEED, speedInWords } from '@under-chalk/core/lesson/speed';
import { at } from '@under-chalk/core/time/timeline';
import { useEdits } from '../../data/edits';
import { ChoiceLine } from '../../ui/choice-line';
import { Choices } from '../../ui/choices';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import type { OpenStretch } from './open-stretch';
import { useTidying } from './tidying';

/** In hundredths. */
const SPEEDS = [50, 75, RECORDED_SPEED, 125, 150, 200, 300, 400, 800];

const labelOf = (speed: number): string =>
  speed === RECORDED_SPEED ? 'as it was recorded' : speedInWords(speed);

interface Props {
  readonly film: Film;
  readonly stretch: OpenStretch;
}

/** How fast what is chosen goes by. */
export const SpeedPanel = ({ film, stretch }: Props) => {
  const { put } = useEdits();
  const tidying = useTidying();
  const { takeId, placementId, startUs, endUs } = stretch;
  const middleUs = middleOf(stretch);
  const speed = at(film.lesson.decisions.speeds, takeId, middleUs)?.speed ?? RECORDED_SPEED;
  return (
    <ChoiceLine label="Playback speed" value={labelOf(speed)}>
      <View style={{ gap: SPACE.small }}>
        <Choices
          label="Playback speed"
          hideLabel
          choices={SPEEDS.map((one) => ({ value: String(one), label: labelOf(one) }))}
          value={String(speed)}
          onChoose={(chosen) => {
            const wanted = Number(chosen);
            put({
              ...{ do: 'set-speed', takeId, startUs, endUs },
              speed: wanted === RECORDED_SPEED ? null : wanted,
            });
            tidying.goTo(filmTimeFrom(film, { takeId, placementId, takeUs: startUs }));
          }}
        />
        <Words size="small" tone="soft" role="status">
          {isHeardAt(rateOf(speed))
            ? 'A voice keeps its pitch up to twice as fast.'
            : 'So fast nobody can follow a voice: it fades out, and a ticking clock in the picture says why.'}
        </Words>
      </View>
    </ChoiceLine>
  );
};
