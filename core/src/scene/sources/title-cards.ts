import { cardPlaceOf, cardWords } from '../../lesson/title-card';
import type { Ground } from '../../lesson/frame';
import type { TitleCardLayer } from '../layers/title-card';
import type { ReadSource, Shown } from './source';

const NOTHING: Shown = { layers: [], moving: false };

/** How light a colour is, 0 to 1 (relative luminance of its gamma-coded values, as ITU-R BT.709 weighs them). */
const lightOf = (colour: string): number => {
  const part = (at: number) => parseInt(colour.slice(at, at + 2), 16) / 255;
  return 0.2126 * part(1) + 0.7152 * part(3) + 0.0722 * part(5);
};

/** What words lie on, where a film is dressed with a ground. */
const groundFor = (ground: Ground): TitleCardLayer['on'] => {
  if (ground.is === 'page') return 'picture';
  const colours = ground.is === 'colour' ? [ground.colour] : [ground.from, ground.to];
  const light = colours.reduce((sum, colour) => sum + lightOf(colour), 0) / colours.length;
  return light > 0.5 ? 'light' : 'dark';
};

/** The cards before a film and after it, on what lies behind all. */
export const titleCardSource: ReadSource = ({ lesson: { decisions } }) => ({
  borders: [],
  at(_frame, { take }) {
    const place = cardPlaceOf(take);
    const card = place && decisions.titleCards[place];
    if (!card) return NOTHING;
    const on = groundFor(decisions.frame.ground);
    return {
      layers: [{ kind: 'title-card', ...cardWords(card, decisions.plan), on }],
      moving: false,
    };
  },
});
