import { useState } from 'react';
import { View } from 'react-native';
import {
  cardWords,
  FIRST_CARD,
  LEAST_CARD_US,
  MOST_CARD_US,
  type TitleCard,
  type CardPlace,
} from '@under-chalk/core/lesson/title-card';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import { parseClock } from '@under-chalk/core/time/us';
import { useEdits } from '../../data/edits';
import { ChoiceLine } from '../../ui/choice-line';
import { Choices } from '../../ui/choices';
import { Field } from '../../ui/field';
import { Stepper } from '../../ui/stepper';
import { SPACE } from '../../ui/theme';
import { useTidying } from './tidying';

const LABELS: Readonly<Record<CardPlace, string>> = {
  opening: 'The film begins with',
  closing: 'The film ends with',
};
const KINDS = [
  { value: 'nothing', label: 'nothing more' },
  { value: 'card', label: 'a card' },
] as const;
const STEP_US = 500_000;

const inSeconds = (us: number): string => String(us / 1e6);

/** The cards before the film and after it. */
export const TitleCards = ({ lesson }: { lesson: Lesson }) => {
  const { opening, closing } = lesson.decisions.titleCards;
  const value =
    opening && closing
      ? 'before the film and after it'
      : opening
        ? 'before the film'
        : closing
          ? 'after the film'
          : 'none';
  return (
    <ChoiceLine label="Cards with words" value={value}>
      <View style={{ gap: SPACE.large }}>
        <CardChoice lesson={lesson} place="opening" />
        <CardChoice lesson={lesson} place="closing" />
      </View>
    </ChoiceLine>
  );
};

interface Props {
  readonly lesson: Lesson;
  readonly place: CardPlace;
}

/** One of them: whether there is one, what stands on it, and how long it is in sight. */
const CardChoice = ({ lesson, place }: Props) => {
  const { put } = useEdits();
  const tidying = useTidying();
  const card = lesson.decisions.titleCards[place];
  const set = (next: TitleCard | null) => {
    put({ do: 'set-title-card', place, card: next });
    if (next) tidying.showCard(place);
  };
  return (
    <View style={{ gap: SPACE.medium }}>
      <Choices
        label={LABELS[place]}
        choices={KINDS}
        value={card ? 'card' : 'nothing'}
        onChoose={(kind) => set(kind === 'card' ? (card ?? FIRST_CARD) : null)}
      />
      {card ? <OnCard {...{ lesson, card, set }} /> : null}
    </View>
  );
};

interface OnCardProps {
  readonly lesson: Lesson;
  readonly card: TitleCard;
  readonly set: (card: TitleCard) => void;
}

const OnCard = ({ lesson, card, set }: OnCardProps) => {
  const { plan } = lesson.decisions;
  const said = cardWords(card, plan);
  const own = cardWords({ heading: null, line: null }, plan);
  const [heading, setHeading] = useState(said.heading);
  const [line, setLine] = useState(said.line);
  // What is as the lesson says stays so, when the lesson is called something else.
  const take = (text: string, lesson: string) => (text.trim() === lesson ? null : text.trim());
  const keep = () => {
    const next = { ...card, heading: take(heading, own.heading), line: take(line, own.line) };
    if (next.heading !== card.heading || next.line !== card.line) set(next);
  };
  return (
    <View style={{ gap: SPACE.medium }}>
      <Field
        label="Large on the card"
        maxLength={120}
        value={heading}
        onChangeText={setHeading}
        onBlur={keep}
        onSubmitEditing={keep}
      />
      <Field
        label="Small under it"
        maxLength={160}
        value={line}
        onChangeText={setLine}
        onBlur={keep}
        onSubmitEditing={keep}
      />
      <Stepper
        label="In sight for"
        value={card.lastsUs}
        least={LEAST_CARD_US}
        most={MOST_CARD_US}
        step={STEP_US}
        onChange={(lastsUs) => set({ ...card, lastsUs: Math.round(lastsUs) })}
        format={inSeconds}
        parse={parseClock}
        unit="s"
        stepWords={['half a second less', 'half a second more']}
      />
    </View>
  );
};
