import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { madeRight } from '@under-chalk/core/words/make-right';
import { replacedIn } from '@under-chalk/core/words/mend';
import { newId } from '../../capture/new-id';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import type { Captions } from './use-captions';

/** What is wrong with all of them together, and the press that puts right what can be. */
export const MakeRight = ({ captions }: { captions: Captions }) => {
  const { film, cues, shown, write } = captions;
  const [told, setTold] = useState<{
    readonly words: string;
    readonly of: readonly unknown[];
  } | null>(null);
  const doubted = shown.filter(({ doubts }) => doubts.length > 0).length;
  const right = () => {
    const { cues: changed, gone, before, after } = madeRight(film, cues, newId);
    write(changed, gone);
    const mended = before - after;
    setTold({
      words:
        mended <= 0
          ? 'What is left needs your ear: say less at once, or give it more time.'
          : after === 0
            ? 'All of it is put right.'
            : `${mended} put right; what is left needs your ear.`,
      of: cues,
    });
  };
  return (
    <View style={styles.line}>
      <Words size="small" tone={doubted > 0 ? 'warn' : 'soft'} role="status" style={styles.words}>
        {told && told.of !== cues && doubted === 0
          ? told.words
          : doubted === 0
            ? 'All can be read in time.'
            : `${told ? `${told.words} ` : ''}${doubted === 1 ? 'One is' : `${doubted} are`} hard to read in time.`}
      </Words>
      {doubted > 0 ? <Button small label="Make it right" onPress={right} /> : null}
    </View>
  );
};

/** Puts other words in place of some, in all captions. */
export const ReplaceWords = ({ captions, onDone }: { captions: Captions; onDone: () => void }) => {
  const { cues, write } = captions;
  const [wanted, setWanted] = useState('');
  const [by, setBy] = useState('');
  const [exact, setExact] = useState(false);
  const changed = replacedIn(cues, wanted, by, exact);
  const found = wanted === '' ? 0 : replacedIn(cues, wanted, `${wanted}\u2060`, exact).length;
  return (
    <View style={styles.panel}>
      <Field label="Find" value={wanted} maxLength={100} onChangeText={setWanted} />
      <Field label="Put in its place" value={by} maxLength={100} onChangeText={setBy} />
      <Words size="small" tone="soft" role="status">
        {wanted === ''
          ? ' '
          : found === 1
            ? 'It stands in one caption.'
            : `It stands in ${found} captions.`}
      </Words>
      <View style={styles.buttons}>
        <Button
          small
          label={exact ? 'Capitals count' : 'Capitals don’t count'}
          onPress={() => setExact(!exact)}
        />
        <Button small label="Done" spoken="Done replacing" onPress={onDone} />
        <Button
          small
          kind="main"
          label="Replace all"
          disabled={changed.length === 0}
          onPress={() => write(changed)}
        />
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  line: { flexDirection: 'row', flexWrap: 'wrap', alignItems: 'center', gap: SPACE.small },
  words: { flexGrow: 1, flexShrink: 1 },
  panel: { gap: SPACE.small },
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
