import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import type { ShareLink } from '@under-chalk/core/contract/share-links';
import { codeOf } from '../../data/client';
import { useRestoreLink, useShareLinks } from '../../data/queries';
import { Button } from '../../ui/button';
import { useFocusWhen } from '../../ui/focus';
import { Notice, ProblemNotice } from '../../ui/notice';
import { Failed, Loading } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { useThisLesson } from '../lessons/lesson-layout';
import type { Copied } from '../../ui/copy-text';
import { addressOf } from './copy-link';
import { LinkRow } from './link-row';

interface Props {
  /** The link that was made just now, and whether it is copied already. */
  readonly made: { readonly id: string; readonly copied: Copied } | null;
}

/** The lesson's links; those that were taken away can be given back. */
export const Links = ({ made }: Props) => {
  const { lesson } = useThisLesson();
  const shareLinks = useShareLinks(lesson.id);
  /** Taken away just now: the way back is where the work goes on. */
  const [taken, setTaken] = useState<string | null>(null);
  const links = shareLinks.data ?? [];
  const given = links.filter(({ state }) => state !== 'revoked');
  const away = links.filter(({ state }) => state === 'revoked');
  return (
    <View style={styles.group}>
      <Heading level={2}>Links</Heading>
      {shareLinks.data ? (
        <>
          {given.length === 0 && away.length === 0 ? (
            <Words tone="soft">
              Nothing is handed out yet. Nobody has to sign in to watch, and you can take it away at
              any time.
            </Words>
          ) : null}
          {given.map((shareLink) => (
            <LinkRow
              key={shareLink.id}
              shareLink={shareLink}
              made={made?.id === shareLink.id ? made.copied : null}
              onTaken={() => setTaken(shareLink.id)}
            />
          ))}
          {away.map((shareLink) => (
            <TakenLink key={shareLink.id} shareLink={shareLink} justNow={taken === shareLink.id} />
          ))}
        </>
      ) : shareLinks.error ? (
        <Failed code={codeOf(shareLinks.error)} onRetry={() => void shareLinks.refetch()} />
      ) : (
        <Loading what="the links" />
      )}
    </View>
  );
};

/** A link that was taken away, and can be had back under the same address. */
const TakenLink = ({ shareLink, justNow }: { shareLink: ShareLink; justNow: boolean }) => {
  const giveAgain = useRestoreLink(shareLink.lessonId);
  const button = useFocusWhen(justNow);
  return (
    <Notice
      title="The link is taken away."
      text={`Who has it sees nothing any more${shareLink.token ? `: ${addressOf(shareLink.token)}` : '.'}`}
    >
      <Button
        small
        ref={button}
        label="Bring the link back"
        disabled={giveAgain.isPending}
        onPress={() => giveAgain.mutate(shareLink.id)}
      />
      {giveAgain.error ? <ProblemNotice code={codeOf(giveAgain.error)} /> : null}
    </Notice>
  );
};

const styles = StyleSheet.create({ group: { gap: SPACE.small } });
