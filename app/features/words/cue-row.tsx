import { memo } from 'react';
import { Pressable, StyleSheet, Text, View } from 'react-native';
import { DOUBTS } from '@under-chalk/core/words/checks';
import { sureOf, wordsIn, type Cue } from '@under-chalk/core/words/cue';
import { DOUBTFUL } from '@under-chalk/core/words/drafted';
import { isRightToLeft } from '@under-chalk/core/words/language';
import { captionLines } from '@under-chalk/core/words/lines';
import { formatTenths, toSeconds } from '@under-chalk/core/time/us';
import { usePart } from '../../data/live-value';
import type { FilmPlayer } from '../../player/film-player';
import { Button } from '../../ui/button';
import { Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';
import { CueEditor } from './cue-editor';
import type { Captions } from './use-captions';

/** Below this it is said that the machine isn't sure. */
const SURE = 60;

interface Props {
  readonly captions: Captions;
  readonly player: FilmPlayer;
  readonly index: number;
  readonly open: boolean;
  /** The same stretch in the language that is spoken, where this is another. */
  readonly spoken: string | null;
  /** It was not heard when it was listened for. */
  readonly unheard: boolean;
  readonly onOpen: (index: number | null) => void;
}

/** One caption: what is read, when, and what is wrong with it; opened, it is mended. */
export const CueRow = memo(function CueRow(props: Props) {
  const { captions, player, index, open, spoken, unheard, onOpen } = props;
  const theme = useTheme();
  const cue = captions.shown[index]!;
  const { startUs, endUs, text, doubts } = cue;
  const here = usePart(player, ({ filmUs }) => startUs <= filmUs && filmUs < endUs);
  const sure = sureOf(cue.cue);
  const doubtful = cue.cue.draft
    ? (cue.cue.words ?? []).filter(([, , certain]) => certain < DOUBTFUL).length
    : 0;
  const facts = [
    formatTenths(startUs),
    `${toSeconds(endUs - startUs).toFixed(1)} s`,
    ...(cue.cue.timed === 'roughly' ? ['time guessed'] : []),
    ...(cue.cue.draft ? ['draft'] : []),
  ];
  const wrong = [
    ...doubts.map((doubt) => DOUBTS[doubt].what),
    ...(doubtful > 0 ? [doubtful === 1 ? 'one doubtful word' : `${doubtful} doubtful words`] : []),
    ...(!cue.cue.draft && sure !== null && sure < SURE ? ['not sure when it is said'] : []),
    ...(unheard ? ['not heard in the film'] : []),
  ];
  return (
    <View
      style={[
        styles.row,
        {
          backgroundColor: theme.card,
          borderColor: here || open ? theme.action : theme.line,
          borderLeftWidth: here ? 6 : 1.5,
        },
      ]}
    >
      <View style={styles.line}>
        <Pressable
          role="button"
          aria-expanded={open}
          aria-label={`Caption ${index + 1}, at ${formatTenths(startUs)}: ${text}${wrong.length > 0 ? `. ${wrong.join(', ')}` : ''}. ${open ? 'Close' : 'Mend'}`}
          onPress={() => onOpen(open ? null : index)}
          style={styles.open}
        >
          {spoken ? (
            <Words size="small" tone="soft">
              {spoken}
            </Words>
          ) : null}
          {open ? null : (
            <Words style={isRightToLeft(captions.language) ? styles.rightToLeft : null}>
              {cue.cue.draft ? <DraftWords cue={cue.cue} /> : captionLines(text).join('\n')}
            </Words>
          )}
          <Words size="small" tone="soft">
            {facts.join(' · ')}
          </Words>
          {wrong.length > 0 ? (
            <Words size="small" tone="warn">
              {wrong.join(' · ')}
            </Words>
          ) : null}
        </Pressable>
        <Button
          small
          label="Hear"
          spoken={`Hear caption ${index + 1}`}
          onPress={() => player.tryOut(captions.film, startUs, endUs)}
        />
      </View>
      {open ? (
        <CueEditor captions={captions} player={player} index={index} onOpen={onOpen} />
      ) : null}
    </View>
  );
});

/** The words of a draft, those that the machine isn't sure of underlined. */
const DraftWords = ({ cue }: { cue: Cue }) =>
  wordsIn(cue.text).map((word, at) => (
    <Text
      key={`${at} ${word}`}
      style={(cue.words?.[at]?.[2] ?? 100) < DOUBTFUL ? styles.doubtful : null}
    >
      {`${at > 0 ? ' ' : ''}${word}`}
    </Text>
  ));

const styles = StyleSheet.create({
  row: { borderWidth: 1.5, borderRadius: RADIUS.medium, padding: SPACE.small, gap: SPACE.small },
  line: { flexDirection: 'row', alignItems: 'flex-start', gap: SPACE.small },
  open: { flexGrow: 1, flexShrink: 1, flexBasis: 0, minHeight: 44, gap: 2 },
  doubtful: { textDecorationLine: 'underline', textDecorationStyle: 'dotted' },
  rightToLeft: { writingDirection: 'rtl' },
});
