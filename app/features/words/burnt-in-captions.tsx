import { useMemo } from 'react';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import type { CaptionLook } from '@under-chalk/core/words/caption-look';
import { signsWithoutLetters } from '@under-chalk/core/text/title-letters';
import { cuesIn } from '@under-chalk/core/words/cue';
import { useEdits } from '../../data/edits';
import { ChoiceLine } from '../../ui/choice-line';
import { Choices } from '../../ui/choices';
import { Words } from '../../ui/text';

/** Most signs that are told of. */
const MOST_TOLD = 5;

const PLACES = [
  { value: 'clear', label: 'where they cover nothing' },
  { value: 'bottom', label: 'at the bottom' },
  { value: 'middle', label: 'in the middle' },
  { value: 'top', label: 'at the top' },
] as const;
const SIZES = [
  { value: '0.04', label: 'small' },
  { value: '0.05', label: 'usual' },
  { value: '0.065', label: 'large' },
  { value: '0.085', label: 'very large' },
] as const;
const GROUNDS = [
  { value: 'band', label: 'on a dark band' },
  { value: 'none', label: 'with a dark edge' },
] as const;

/** Whether the captions are part of the picture, and how they stand in it. */
export const BurntInCaptions = ({ lesson }: { lesson: Lesson }) => {
  const { put } = useEdits();
  const look = lesson.decisions.captionLook;
  const change = (part: Partial<CaptionLook>) =>
    put({ do: 'show-captions', look: { ...look, ...part } });
  const { cues, language: spoken } = lesson.decisions;
  const strange = useMemo(
    () =>
      signsWithoutLetters(
        cuesIn(cues, spoken)
          .map(({ text }) => text)
          .join(' '),
      ),
    [cues, spoken],
  );
  const place = PLACES.find(({ value }) => value === look.place)!.label;
  return (
    <ChoiceLine
      label="Who sees them"
      value={look.burntIn ? `Everybody, in the picture, ${place}` : 'Whoever switches them on'}
    >
      <Choices
        label="Who sees them"
        hideLabel
        stacked
        choices={[
          {
            value: 'switched',
            label: 'Whoever switches them on',
            hint: 'On the film’s page, and in players that can show captions.',
          },
          {
            value: 'burnt-in',
            label: 'Everybody',
            hint: 'They are part of the picture, wherever the film goes.',
          },
        ]}
        value={look.burntIn ? 'burnt-in' : 'switched'}
        onChoose={(value) => change({ burntIn: value === 'burnt-in' })}
      />
      {strange.length > 0 ? (
        <Words size="small" tone={look.burntIn ? 'warn' : 'soft'}>
          {`The letters of titles don’t have ${strange.slice(0, MOST_TOLD).join(' ')}${strange.length > MOST_TOLD ? ' …' : ''}: in the picture these captions would be set in whatever this server has. Whoever switches them on sees them right.`}
        </Words>
      ) : null}
      {look.burntIn ? (
        <>
          <Choices
            label="They stand"
            choices={PLACES}
            value={look.place}
            onChoose={(value) => change({ place: value })}
          />
          <Choices
            label="Size"
            choices={SIZES}
            value={SIZES.find(({ value }) => Number(value) === look.size)?.value ?? null}
            onChoose={(value) => change({ size: Number(value) })}
          />
          <Choices
            label="So that they can be read"
            choices={GROUNDS}
            value={look.ground}
            onChoose={(value) => change({ ground: value })}
          />
        </>
      ) : null}
    </ChoiceLine>
  );
};
