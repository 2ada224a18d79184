import { useRef, useState } from 'react';
import { Pressable, StyleSheet, View } from 'react-native';
import type { Film } from '@under-chalk/core/film/film';
import type { LevelLine } from '@under-chalk/core/sound/level-line';
import { stretchOfWords, wordsSaid, type SaidWord } from '@under-chalk/core/words/strike';
import { focusOn } from '../../ui/focus';
import { arrowStep } from '../../ui/mirrored';
import { Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';
import type { ChosenStretch } from './open-stretch';
import { useTidying } from './tidying';
import { useCut } from './use-cut';

interface Props {
  readonly film: Film;
  readonly chosen: ChosenStretch;
  readonly line: LevelLine | null;
}

interface Run {
  /** Where it was begun, and how far it reaches. */
  readonly anchor: number;
  readonly head: number;
}

/** The words that lie wholly, or nearly so, in what is chosen; null where those aren't just a part of all. */
const runIn = (words: readonly SaidWord[], { startUs, endUs }: ChosenStretch): Run | null => {
  const inside = (word: SaidWord) => {
    const middle = (word.startUs + word.endUs) / 2;
    return middle >= startUs && middle < endUs;
  };
  const anchor = words.findIndex(inside);
  const head = words.findLastIndex(inside);
  return anchor < 0 || (anchor === 0 && head === words.length - 1) ? null : { anchor, head };
};

/**
 * What is said in a phrase, word by word: a press chooses one, a second one all between; dragged over, or with Shift and the arrows,
 * more. What is chosen is the stretch in which they are said, and can be cut or changed as any other; Delete cuts it.
 */
export const WordsPanel = ({ film, chosen, line }: Props) => {
  const theme = useTheme();
  const tidying = useTidying();
  const cut = useCut();
  const { takeId, opened } = chosen;
  const words = wordsSaid(film.lesson.decisions, takeId, opened);
  const parts = useRef<(View | null)[]>([]);
  const [run, setRun] = useState<Run | null>(null);
  /** The word that a finger came down on; what it goes over from there on is chosen. */
  const down = useRef<number | null>(null);
  const dragged = useRef(false);
  if (words.length === 0) return null;
  const now = runIn(words, chosen);
  const isChosen = (at: number) =>
    now !== null && at >= Math.min(now.anchor, now.head) && at <= Math.max(now.anchor, now.head);
  const choose = (next: Run) => {
    setRun(next);
    const [from, to] = [Math.min(next.anchor, next.head), Math.max(next.anchor, next.head)];
    tidying.choose({ ...chosen, ...stretchOfWords(words, from, to, line, opened) });
  };
  const press = (at: number) => {
    // A second one reaches from the first; a third begins anew.
    const reaches = run !== null && now !== null && run.anchor === run.head && run.anchor !== at;
    choose(reaches ? { anchor: run.anchor, head: at } : { anchor: at, head: at });
  };
  const wordAt = (event: PointerEvent): number | null => {
    const under = document.elementFromPoint(event.clientX, event.clientY);
    const at = under?.closest('[data-word]')?.getAttribute('data-word');
    return at === null || at === undefined ? null : Number(at);
  };
  const keyed = (at: number) => (event: KeyboardEvent) => {
    const by = arrowStep({ key: event.key, currentTarget: event.currentTarget as Element });
    if (by !== 0) {
      event.preventDefault();
      const to = Math.min(words.length - 1, Math.max(0, at + by));
      focusOn(parts.current[to] ?? null);
      choose({ anchor: event.shiftKey && run ? run.anchor : to, head: to });
    } else if (event.key === 'Delete' || event.key === 'Backspace') {
      event.preventDefault();
      if (now) cut(chosen);
    }
  };
  const entry = run && run.head < words.length ? run.head : 0;
  return (
    <View style={styles.group}>
      <Words size="small" tone="soft">
        What is said: choose words, to cut or change just them.
      </Words>
      <View
        role={'listbox' as never}
        aria-label="What is said"
        {...({
          'aria-multiselectable': true,
          lang: film.lesson.decisions.language,
          onPointerDown: (event: PointerEvent) => {
            down.current = wordAt(event);
            dragged.current = false;
          },
          onPointerMove: (event: PointerEvent) => {
            const from = down.current;
            const at = event.buttons === 1 ? wordAt(event) : null;
            if (from === null || at === null || (at === from && !dragged.current)) return;
            if (dragged.current && at === run?.head) return;
            dragged.current = true;
            choose({ anchor: from, head: at });
          },
        } as object)}
        style={[styles.words, { borderColor: theme.line }]}
      >
        {words.map((word, at) => (
          <Pressable
            key={`${word.cueId} ${word.startUs} ${at}`}
            ref={(part) => {
              parts.current[at] = part;
            }}
            role="option"
            aria-selected={isChosen(at)}
            aria-label={word.text}
            tabIndex={at === entry ? 0 : -1}
            onPressIn={() => {
              if (!run || now === null) choose({ anchor: at, head: at });
            }}
            onPress={() => {
              if (!dragged.current && !(run?.anchor === at && run.head === at)) press(at);
            }}
            {...({ dataSet: { word: at }, onKeyDown: keyed(at) } as object)}
            style={[styles.word, isChosen(at) ? { backgroundColor: theme.actionSoft } : null]}
          >
            <Words tone={isChosen(at) ? 'action' : 'ink'} strong={isChosen(at)}>
              {word.text}
            </Words>
          </Pressable>
        ))}
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.hair },
  words: {
    flexDirection: 'row',
    flexWrap: 'wrap',
    borderWidth: 1,
    borderRadius: RADIUS.medium,
    padding: SPACE.hair,
    // A finger that goes down the page scrolls it; one that goes along a line chooses.
    ...({ touchAction: 'pan-y', userSelect: 'none' } as object),
  },
  word: {
    minHeight: 44,
    justifyContent: 'center',
    paddingHorizontal: 5,
    borderRadius: RADIUS.small,
  },
});
