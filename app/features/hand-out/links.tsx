import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import type { HandOut } from '@under-chalk/core/contract/hand-outs';
import { codeOf } from '../../data/client';
import { useHandOuts, useTakeBack } from '../../data/queries';
import { Button } from '../../ui/button';
import { Failed, Loading } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';
import { useThisLesson } from '../lessons/lesson-layout';
import { FilmState } from './film-state';
import { SIZE_NAMES } from './film-words';

/** The lesson's links, and taking them away. */
export const Links = ({ revision }: { revision: number }) => {
  const { lesson } = useThisLesson();
  const handOuts = useHandOuts(lesson.id);
  return (
    <View style={styles.group}>
      <Heading level={2}>Links</Heading>
      {handOuts.data ? (
        handOuts.data.length === 0 ? (
          <Words tone="soft">
            No link yet. Anyone who has a link can watch, without signing in; you can take it away
            at any time.
          </Words>
        ) : (
          handOuts.data.map((handOut) => (
            <LinkRow key={handOut.id} handOut={handOut} revision={revision} />
          ))
        )
      ) : handOuts.error ? (
        <Failed code={codeOf(handOuts.error)} onRetry={() => void handOuts.refetch()} />
      ) : (
        <Loading what="the links" />
      )}
    </View>
  );
};

const LinkRow = ({ handOut, revision }: { handOut: HandOut; revision: number }) => {
  const theme = useTheme();
  const { lesson } = useThisLesson();
  const takeBack = useTakeBack(lesson.id);
  const [copied, setCopied] = useState<'no' | 'yes' | 'failed'>('no');
  const address = `${location.origin}/w/${handOut.token}`;
  const copy = () => {
    navigator.clipboard.writeText(address).then(
      () => setCopied('yes'),
      () => setCopied('failed'),
    );
  };
  return (
    <View style={[styles.row, { borderColor: theme.line, backgroundColor: theme.card }]}>
      <Words strong selectable testID="watch-address" style={styles.address}>
        {address}
      </Words>
      <Words size="small" tone="soft">
        {`Open to anyone with the link · ${SIZE_NAMES[handOut.film.size]}${
          handOut.film.revision < revision ? ' · the lesson has been changed since' : ''
        }`}
      </Words>
      <FilmState film={handOut.film} />
      <View style={styles.actions}>
        <Button small label="Copy the link" onPress={copy} />
        <Button small label="Open it" onPress={() => window.open(address, '_blank', 'noopener')} />
        <Button
          small
          kind="grave"
          label="Take it away"
          disabled={takeBack.isPending}
          onPress={() => takeBack.mutate(handOut.id)}
        />
      </View>
      <Words size="small" role="status">
        {
          {
            no: '',
            yes: 'Copied.',
            failed: 'The browser does not let it be copied; mark it above.',
          }[copied]
        }
      </Words>
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  row: { borderWidth: 1, borderRadius: RADIUS.medium, padding: SPACE.medium, gap: SPACE.small },
  address: { ...({ overflowWrap: 'anywhere' } as object) },
  actions: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small, alignItems: 'center' },
});
