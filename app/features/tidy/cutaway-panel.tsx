import { middleOf } from '@under-chalk/core/time/ranges';
import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { filmTimeFrom, type Film } from '@under-chalk/core/film/film';
import { pageOfCutaway, type Cutaway, type CutawayFootage } from '@under-chalk/core/lesson/cutaway';
import { takeOf, type Lesson } from '@under-chalk/core/lesson/lesson';
import { mediumOf } from '@under-chalk/core/lesson/medium';
import { pictureTrackOf, type Take } from '@under-chalk/core/lesson/take';
import { takeNameOf } from '@under-chalk/core/lesson/take-names';
import { namedPage, pageInWords } from '@under-chalk/core/material/named-page';
import { at } from '@under-chalk/core/time/timeline';
import { formatTenths } from '@under-chalk/core/time/us';
import { useEdits } from '../../data/edits';
import { useMaterials } from '../../data/queries';
import { Button } from '../../ui/button';
import { Choices } from '../../ui/choices';
import { Slider } from '../../ui/slider';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { PageToShow } from '../materials/page-to-show';
import type { OpenStretch } from './open-stretch';
import { useTidying } from './tidying';

/** How far an arrow key moves the beginning of footage, and what dragging snaps to, µs. */
const KEY_US = 500_000;
const SNAP_US = 100_000;
/** At least so much of it is shown, µs. */
const LEAST_US = 500_000;

interface Props {
  readonly film: Film;
  readonly take: Take;
  readonly stretch: OpenStretch;
}

/** Takes whose pictures can be shown while something else is heard. */
const othersWithPictures = ({ takes }: Lesson, own: Take): Take[] =>
  takes.filter((take) => {
    const track = take.state === 'ready' && take !== own ? pictureTrackOf(take) : undefined;
    return track !== undefined && mediumOf(track.kind) === 'picture';
  });

/** A cutaway: a page of the lesson's materials, or another take's picture, in place of what was recorded, while the sound goes on. */
export const CutawayPanel = ({ film, take, stretch }: Props) => {
  const { put } = useEdits();
  const tidying = useTidying();
  const { lesson } = film;
  const [open, setOpen] = useState(false);
  const { data = [] } = useMaterials(lesson.id);
  const ready = data.filter(({ state }) => state === 'ready');
  const others = othersWithPictures(lesson, take);
  const { takeId, placementId, startUs, endUs } = stretch;
  const middleUs = middleOf(stretch);
  const shown = at(lesson.decisions.cutaways, take.id, middleUs)?.of ?? null;
  const page = shown && pageOfCutaway(shown);
  const footage = shown && 'takeId' in shown ? shown : null;
  const material = ready.find(({ content }) => content === page?.content);
  const words = material && page ? pageInWords(material.name, page.page) : '';
  const show = (of: Cutaway | null) => {
    put({ do: 'set-cutaway', takeId, startUs, endUs, of });
    tidying.goTo(filmTimeFrom(film, { takeId, placementId, takeUs: middleUs }));
  };
  const showPage = (said: string) => {
    const named = namedPage(said, ready);
    const chosen = ready.find(({ id }) => id === named?.id);
    if (!named || !chosen) return;
    const number = Math.min(named.page, chosen.aspects.length - 1);
    show({ content: chosen.content!, page: number, aspect: chosen.aspects[number]! });
  };
  const said = footage
    ? `Shows ${takeNameOf(lesson, footage.takeId)}.`
    : `Shows ${words || 'a page that is no longer among the materials'}.`;
  return (
    <View style={styles.group}>
      <View style={styles.buttons}>
        <Button small label="Show something else" expanded={open} onPress={() => setOpen(!open)} />
        {shown ? (
          <>
            <Button small label="Show what was recorded" onPress={() => show(null)} />
            <Words size="small" tone="soft" role="status">
              {said}
            </Words>
          </>
        ) : null}
      </View>
      {open && ready.length + others.length === 0 ? (
        <Words size="small" tone="soft">
          Bring a picture or slides in under Plan, or a film under Record; then it can be shown
          here, while you go on speaking.
        </Words>
      ) : null}
      {open ? <PageToShow of="what is chosen" show={words} onShow={showPage} /> : null}
      {open && others.length > 0 ? (
        <Choices
          label="Or the picture of"
          choices={others.map(({ id }) => ({ value: id, label: takeNameOf(lesson, id) }))}
          value={footage?.takeId ?? null}
          onChoose={(id) => show({ takeId: id, fromUs: 0, sinceUs: startUs })}
        />
      ) : null}
      {open && footage ? <FootageFrom {...{ film, footage, show }} /> : null}
    </View>
  );
};

interface FootageProps {
  readonly film: Film;
  readonly footage: CutawayFootage;
  readonly show: (of: CutawayFootage) => void;
}

/** Where in the other take it begins; and the way to leave that take out of the film, where it stands in it too. */
const FootageFrom = ({ film, footage, show }: FootageProps) => {
  const { put } = useEdits();
  const { lesson, placed } = film;
  const other = takeOf(lesson, footage.takeId);
  const [moved, setMoved] = useState<number | null>(null);
  if (!other) return null;
  const stands = placed.filter(({ takeId }) => takeId === other.id);
  const name = takeNameOf(lesson, other.id);
  const fromUs = moved ?? footage.fromUs;
  const ingest = () => {
    if (moved !== null && moved !== footage.fromUs) show({ ...footage, fromUs: moved });
    setMoved(null);
  };
  return (
    <View style={styles.group}>
      <Words size="small" tone="soft" aria-hidden>
        {`From ${formatTenths(fromUs)} of it`}
      </Words>
      <View {...({ onPointerUp: ingest, onKeyUp: ingest, onBlur: ingest } as object)}>
        <Slider
          label={`Where ${name} begins to be shown`}
          value={fromUs}
          least={0}
          most={Math.max(0, other.durationUs - LEAST_US)}
          step={SNAP_US}
          keyStep={KEY_US}
          inWords={formatTenths}
          onChange={setMoved}
        />
      </View>
      {stands.length > 0 ? (
        <View style={styles.buttons}>
          <Button
            small
            label={`Leave ${name} out of the film otherwise`}
            onPress={() =>
              put(...stands.map(({ id }) => ({ do: 'exclude-take' as const, placementId: id })))
            }
          />
        </View>
      ) : null}
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small, alignItems: 'center' },
});
