import { useMemo, useState } from 'react';
import { StyleSheet, Text, View } from 'react-native';
import type { Film } from '@under-chalk/core/film/film';
import { cuesIn } from '@under-chalk/core/words/cue';
import { cueAt, filmCuesOf } from '@under-chalk/core/words/film-cues';
import { isRightToLeft } from '@under-chalk/core/words/language';
import { captionLines } from '@under-chalk/core/words/lines';
import { usePart } from '../data/live-value';
import { FONTS } from '../ui/theme';
import type { FilmPlayer } from './film-player';

interface Props {
  readonly player: FilmPlayer;
  readonly film: Film;
  readonly language: string;
}

/** Share of the picture's height that a line of captions takes. */
const LINE_SHARE = 0.055;
const LEAST_PX = 12;

/** The caption of the moment over the picture, as students can switch it on. */
export const CaptionOver = ({ player, film, language }: Props) => {
  const [height, setHeight] = useState(0);
  const all = film.lesson.decisions.cues;
  const cues = useMemo(() => filmCuesOf(film, cuesIn(all, language)), [film, all, language]);
  const text = usePart(player, ({ filmUs }) => cueAt(cues, filmUs)?.text ?? '');
  const fontSize = Math.max(LEAST_PX, Math.round(height * LINE_SHARE));
  return (
    <View
      pointerEvents="none"
      // Read in the list beside it.
      aria-hidden
      testID="caption-over"
      onLayout={({ nativeEvent }) => setHeight(nativeEvent.layout.height)}
      style={styles.over}
    >
      {text === '' ? null : (
        <View style={styles.band}>
          <Text
            style={[
              styles.text,
              { fontSize, lineHeight: Math.round(fontSize * 1.35) },
              isRightToLeft(language) ? styles.rightToLeft : null,
            ]}
          >
            {captionLines(text).join('\n')}
          </Text>
        </View>
      )}
    </View>
  );
};

const styles = StyleSheet.create({
  over: {
    position: 'absolute',
    top: 0,
    bottom: 0,
    left: 0,
    right: 0,
    justifyContent: 'flex-end',
    alignItems: 'center',
    paddingBottom: '4%',
  },
  band: { backgroundColor: 'rgba(20, 28, 33, 0.82)', borderRadius: 6, paddingHorizontal: 10 },
  text: { color: '#fffdf6', fontFamily: FONTS.text, textAlign: 'center' },
  rightToLeft: { writingDirection: 'rtl' },
});
