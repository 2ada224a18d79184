import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import type { HandOut } from '@under-chalk/core/contract/hand-outs';
import { codeOf } from '../../data/client';
import { useGiveAgain, useHandOuts, useTakeBack } from '../../data/queries';
import { Button } from '../../ui/button';
import { useFocusWhen } from '../../ui/focus';
import { Notice, ProblemNotice } from '../../ui/notice';
import { Failed, Loading } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';
import { useThisLesson } from '../lessons/lesson-layout';
import { FilmState } from './film-state';
import { SIZE_NAMES } from './film-words';

export type Copied = 'no' | 'yes' | 'failed';

const addressOf = (token: string) => `${location.origin}/w/${token}`;

/**
 * Copies a link's address, also one that is only being made: browsers let a page copy in a press, and the press
 * would be over by then, so what is to be copied is promised.
 *
 * @returns how it came out
 */
export const copyLink = async (token: string | Promise<string>): Promise<Copied> => {
  const text = Promise.resolve(token).then(addressOf);
  try {
    const asBlob = text.then((address) => new Blob([address], { type: 'text/plain' }));
    await navigator.clipboard.write([new ClipboardItem({ 'text/plain': asBlob })]);
    return 'yes';
  } catch {
    // An older browser, or one that forbids it: it may still take plain text.
    return navigator.clipboard?.writeText(await text).then(
      () => 'yes' as const,
      () => 'failed' as const,
    );
  }
};

interface Props {
  readonly revision: number;
  /** The link that was made just now, and whether it is copied already. */
  readonly made: { readonly id: string; readonly copied: Copied } | null;
}

/** The lesson's links, and taking them away. */
export const Links = ({ revision, made }: Props) => {
  const { lesson } = useThisLesson();
  const handOuts = useHandOuts(lesson.id);
  // Taken away while this page is open: the way back stays.
  const [taken, setTaken] = useState<HandOut[]>([]);
  return (
    <View style={styles.group}>
      <Heading level={2}>Links</Heading>
      {taken.map((handOut) => (
        <TakenLink
          key={handOut.id}
          handOut={handOut}
          onBack={() => setTaken((all) => all.filter((one) => one.id !== handOut.id))}
        />
      ))}
      {handOuts.data ? (
        handOuts.data.length === 0 && taken.length === 0 ? (
          <Words tone="soft">
            No link yet. Anyone who has a link can watch, without signing in; you can take it away
            at any time.
          </Words>
        ) : (
          handOuts.data
            .filter(({ id }) => !taken.some((one) => one.id === id))
            .map((handOut) => (
              <LinkRow
                key={handOut.id}
                handOut={handOut}
                revision={revision}
                made={made?.id === handOut.id ? made.copied : null}
                onTaken={() => setTaken((all) => [handOut, ...all])}
              />
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

/** A link that was taken away on this page, and can be had back under the same address. */
const TakenLink = ({ handOut, onBack }: { handOut: HandOut; onBack: () => void }) => {
  const { lesson } = useThisLesson();
  const giveAgain = useGiveAgain(lesson.id);
  const button = useFocusWhen(true);
  return (
    <Notice
      title="The link is taken away."
      text="Who has it sees nothing any more. As long as this page is open, it can be had back as it was."
    >
      <Button
        small
        ref={button}
        label="Bring the link back"
        disabled={giveAgain.isPending}
        onPress={() => giveAgain.mutate(handOut.id, { onSuccess: onBack })}
      />
      {giveAgain.error ? <ProblemNotice code={codeOf(giveAgain.error)} /> : null}
    </Notice>
  );
};

const COPY_WORDS: Record<Copied, string> = {
  no: '',
  yes: 'Copied.',
  failed: 'The browser does not let it be copied; mark it above.',
};

interface RowProps {
  readonly handOut: HandOut;
  readonly revision: number;
  /** Made just now: whether it was copied; null for an older one. */
  readonly made: Copied | null;
  readonly onTaken: () => void;
}

const LinkRow = ({ handOut, revision, made, onTaken }: RowProps) => {
  const theme = useTheme();
  const { lesson } = useThisLesson();
  const takeBack = useTakeBack(lesson.id);
  const [again, setAgain] = useState<Copied | null>(null);
  const copied = again ?? made ?? 'no';
  const copyButton = useFocusWhen(made !== null);
  const { token } = handOut;
  return (
    <View style={[styles.row, { borderColor: theme.line, backgroundColor: theme.card }]}>
      {token ? (
        <Words strong selectable testID="watch-address" style={styles.address}>
          {addressOf(token)}
        </Words>
      ) : (
        <Words tone="warn">
          This link works, but its address can’t be shown any more. Make a new one to pass on.
        </Words>
      )}
      <Words size="small" tone="soft">
        {`Open to anyone with the link · ${SIZE_NAMES[handOut.film.size]}${
          handOut.film.revision < revision ? ' · the lesson has been changed since' : ''
        }`}
      </Words>
      <FilmState film={handOut.film} />
      <View style={styles.actions}>
        {token ? (
          <>
            <Button
              small
              ref={copyButton}
              label="Copy the link"
              onPress={() => void copyLink(token).then(setAgain)}
            />
            <Button
              small
              label="Open it"
              onPress={() => window.open(addressOf(token), '_blank', 'noopener')}
            />
          </>
        ) : null}
        <View style={styles.apart}>
          <Button
            small
            kind="grave"
            label="Take it away"
            disabled={takeBack.isPending}
            onPress={() => takeBack.mutate(handOut.id, { onSuccess: onTaken })}
          />
        </View>
      </View>
      {takeBack.error ? <ProblemNotice code={codeOf(takeBack.error)} /> : null}
      <Words size="small" role="status">
        {COPY_WORDS[copied]}
      </Words>
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  row: { borderWidth: 1, borderRadius: RADIUS.medium, padding: SPACE.medium, gap: SPACE.small },
  address: { ...({ overflowWrap: 'anywhere' } as object) },
  actions: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small, alignItems: 'center' },
  // Far from what is pressed most.
  apart: { ...({ marginInlineStart: 'auto' } as object) },
});
