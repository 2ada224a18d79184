import { StyleSheet, View } from 'react-native';
import { pathTo } from '@under-chalk/core/contract/api';
import type { ShareLink } from '@under-chalk/core/contract/share-links';
import { KEPT_DAYS } from '@under-chalk/core/contract/watched';
import { codeOf } from '../../data/client';
import { useKeepWatched, useWatched } from '../../data/queries';
import { Button } from '../../ui/button';
import { ChoiceLine } from '../../ui/choice-line';
import { Choices } from '../../ui/choices';
import { ProblemNotice } from '../../ui/notice';
import { Failed, Loading } from '../../ui/screen';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { LinkAnswers } from './link-answers';
import { LinkViewers } from './link-viewers';
import { RetentionCurve } from './retention-curve';
import { viewersOf, watchedInWords } from './viewing-words';

const KEPT_WORDS: Readonly<Record<string, string>> = {
  '30': 'a month',
  '90': 'three months',
  '365': 'a year',
  null: 'as long as the link',
};

/** Who has watched what is handed out, and how it was watched: a curve over the film, and a line for each student. */
export const LinkViewing = ({ shareLink }: { shareLink: ShareLink }) => {
  const watched = useWatched(shareLink.id);
  if (!watched.data) {
    return watched.error ? (
      <Failed code={codeOf(watched.error)} onRetry={() => void watched.refetch()} />
    ) : (
      <Loading what="who has watched it" />
    );
  }
  const sentences = watchedInWords(watched.data);
  const isWatched = watched.data.curve.watched.some((many) => many > 0);
  return (
    <View style={styles.group}>
      {isWatched ? <RetentionCurve watched={watched.data} inWords={sentences.join(' ')} /> : null}
      {isWatched ? (
        <Words size="small" tone="soft">
          {`How many have watched each place, ${viewersOf(watched.data)} at most; dashed, how many more than once.`}
        </Words>
      ) : null}
      {sentences.map((sentence) => (
        <Words key={sentence}>{sentence}</Words>
      ))}
      <LinkAnswers shareLink={shareLink} />
      {shareLink.opened.of > 0 ? (
        <LinkViewers shareLink={shareLink} watched={watched.data.students} />
      ) : null}
      <KeptFor days={watched.data.keptDays} />
      {watched.data.students.length > 0 ? (
        <View style={styles.line}>
          <Button
            small
            label="Save as a table (CSV)"
            onPress={() => location.assign(pathTo('viewingFile', { shareLinkId: shareLink.id }))}
          />
        </View>
      ) : null}
    </View>
  );
};

/** For how long it is kept: of all links alike. */
const KeptFor = ({ days }: { days: number | null }) => {
  const keep = useKeepWatched();
  return (
    <>
      <ChoiceLine
        label="Kept, for all links, for"
        value={KEPT_WORDS[String(days)] ?? `${days} days`}
      >
        <Choices
          label="Kept, for all links, for"
          hideLabel
          stacked
          choices={KEPT_DAYS.map((value) => ({
            value: String(value),
            label: KEPT_WORDS[String(value)]!,
            ...(value === null ? {} : { hint: 'After the day that they watched it last.' }),
          }))}
          value={String(days)}
          onChoose={(value) => {
            const chosen = KEPT_DAYS.find((one) => String(one) === value);
            if (chosen !== undefined) keep.mutate(chosen);
          }}
        />
        <Words size="small" tone="soft">
          What is older is forgotten at once, and can’t be brought back.
        </Words>
      </ChoiceLine>
      {keep.error ? <ProblemNotice code={codeOf(keep.error)} /> : null}
    </>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  line: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
