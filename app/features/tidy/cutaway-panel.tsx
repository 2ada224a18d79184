import { middleOf } from '@under-chalk/core/time/ranges';
import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { filmTimeFrom, type Film } from '@under-chalk/core/film/film';
import type { Take } from '@under-chalk/core/lesson/take';
import { namedPage, pageInWords } from '@under-chalk/core/material/named-page';
import { at } from '@under-chalk/core/time/timeline';
import { useEdits } from '../../data/edits';
import { useMaterials } from '../../data/queries';
import { Button } from '../../ui/button';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { PageToShow } from '../materials/page-to-show';
import type { OpenStretch } from './open-stretch';
import { useTidying } from './tidying';

interface Props {
  readonly film: Film;
  readonly take: Take;
  readonly stretch: OpenStretch;
}

/** A cutaway: a page of the lesson's materials in place of what was recorded, while the sound goes on. */
export const CutawayPanel = ({ film, take, stretch }: Props) => {
  const { put } = useEdits();
  const tidying = useTidying();
  const { lesson } = film;
  const [open, setOpen] = useState(false);
  const { data = [] } = useMaterials(lesson.id);
  const ready = data.filter(({ state }) => state === 'ready');
  const { takeId, placementId, startUs, endUs } = stretch;
  const middleUs = middleOf(stretch);
  const shown = at(lesson.decisions.cutaways, take.id, middleUs)?.of ?? null;
  const material = ready.find(({ content }) => content === shown?.content);
  const words = material && shown ? pageInWords(material.name, shown.page) : '';
  const show = (said: string | null) => {
    const named = said === null ? null : namedPage(said, ready);
    const chosen = ready.find(({ id }) => id === named?.id);
    if (said !== null && !(named && chosen)) return;
    const page = named && chosen ? Math.min(named.page, chosen.aspects.length - 1) : 0;
    const of = chosen ? { content: chosen.content!, page, aspect: chosen.aspects[page]! } : null;
    put({ do: 'cut-away', takeId, startUs, endUs, of });
    tidying.goTo(filmTimeFrom(film, { takeId, placementId, takeUs: middleUs }));
  };
  return (
    <View style={styles.group}>
      <View style={styles.buttons}>
        <Button small label="Show something else" expanded={open} onPress={() => setOpen(!open)} />
        {shown ? (
          <>
            <Button small label="Show what was recorded" onPress={() => show(null)} />
            <Words size="small" tone="soft" role="status">
              {`Shows ${words || 'a page that is no longer among the materials'}.`}
            </Words>
          </>
        ) : null}
      </View>
      {open && ready.length === 0 ? (
        <Words size="small" tone="soft">
          Bring a picture or slides in under Plan; then a page of them can be shown here, while you
          go on speaking.
        </Words>
      ) : null}
      {open ? <PageToShow of="what is chosen" show={words} onShow={show} /> : null}
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small, alignItems: 'center' },
});
