import { createContext, useContext, useSyncExternalStore } from 'react';
import { Appearance } from 'react-native';

/** Colours, named by their use. Daylight is limewash paper and slate ink; lights down is slate and chalk. */
export interface Palette {
  readonly dark: boolean;
  readonly paper: string;
  /** A surface that lies on the paper. */
  readonly card: string;
  readonly line: string;
  readonly ink: string;
  readonly inkSoft: string;
  /** The one colour that says "press here". */
  readonly action: string;
  readonly onAction: string;
  readonly actionSoft: string;
  readonly good: string;
  readonly warn: string;
  readonly bad: string;
  readonly badSoft: string;
  readonly chalk: string;
}

const daylight: Palette = {
  dark: false,
  paper: '#f5f1e6',
  card: '#fffdf6',
  line: '#d5cdb9',
  ink: '#22303a',
  inkSoft: '#56636c',
  action: '#1f5c63',
  onAction: '#fffdf6',
  actionSoft: '#dde9e4',
  good: '#2c6b3f',
  warn: '#8a5a00',
  bad: '#9c2f22',
  badSoft: '#f7e2da',
  chalk: '#22303a',
};

const lightsDown: Palette = {
  dark: true,
  paper: '#1c252b',
  card: '#27323a',
  line: '#475660',
  ink: '#f3eee0',
  inkSoft: '#b9c1c2',
  action: '#f0c75e',
  onAction: '#22303a',
  actionSoft: '#3a4239',
  good: '#8fd19e',
  warn: '#f0c75e',
  bad: '#ff9c8a',
  badSoft: '#4a2f2c',
  chalk: '#f7f3e9',
};

/** Sizes of type, px; line heights follow. */
export const TYPE = { small: 14, body: 16, large: 19, heading: 24, title: 31, clock: 44 } as const;

/** Room between things, px. */
export const SPACE = { hair: 4, small: 8, medium: 12, large: 16, wide: 24, huge: 40 } as const;

export const RADIUS = { small: 6, medium: 10, large: 16 } as const;

export const FONTS = {
  text: 'AtkinsonHyperlegible_400Regular',
  strong: 'AtkinsonHyperlegible_700Bold',
  heading: 'Bitter_600SemiBold',
} as const;

/** From this width on parts stand side by side, px. */
export const WIDE = 900;

/** Whether the lights are down, whatever the reader's setting: while recording. */
export const LightsDownContext = createContext(false);

/** Parts of the page that are drawn in the colours of now. */
const watchers = new Set<() => void>();
let scheme = Appearance.getColorScheme();
Appearance.addChangeListener(() => {
  scheme = Appearance.getColorScheme();
  watchers.forEach((watcher) => watcher());
});

const onScheme = (watcher: () => void): (() => void) => {
  watchers.add(watcher);
  return () => watchers.delete(watcher);
};
// What was told last, and not what the browser would say now: it says so before it tells, and a part that is drawn in
// between would be in another light than all the others.
const schemeNow = () => scheme;

/**
 * The colours of now. Not by the package's own hook: on the web it subscribes anew with every rendering, and a part that
 * is rendered while a change is being told misses it, and stays as it was (seen with react-native-web 0.21).
 */
export const useTheme = (): Palette => {
  const down = useContext(LightsDownContext);
  const now = useSyncExternalStore(onScheme, schemeNow, schemeNow);
  return down || now === 'dark' ? lightsDown : daylight;
};
