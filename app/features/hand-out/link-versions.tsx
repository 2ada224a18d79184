import { StyleSheet, View } from 'react-native';
import type { ShareLink } from '@under-chalk/core/contract/share-links';
import { formatSpoken } from '@under-chalk/core/time/us';
import { codeOf } from '../../data/client';
import { useRestoreVersion } from '../../data/queries';
import { Button } from '../../ui/button';
import { dateTimeInWords } from '../../ui/date-time';
import { ProblemNotice } from '../../ui/notice';
import { Row } from '../../ui/row';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { SIZE_NAMES } from './film-words';

/** What has been given under a link, newest first; any of it can be given again. */
export const LinkVersions = ({ shareLink }: { shareLink: ShareLink }) => {
  const putBack = useRestoreVersion(shareLink.lessonId);
  return (
    <View style={styles.list} role="list" aria-label="Films that were given under this link">
      {shareLink.given.map(({ id, size, filmUs, publishedAt, current }) => (
        <Row key={id}>
          <View style={styles.words}>
            <Words>{dateTimeInWords(publishedAt)}</Words>
            <Words size="small" tone="soft">
              {`${formatSpoken(filmUs)} · ${SIZE_NAMES[size]}`}
            </Words>
          </View>
          {current ? (
            <Words size="small" tone="good">
              Given now
            </Words>
          ) : (
            <Button
              small
              label="Put it back"
              spoken={`Put back the film of ${dateTimeInWords(publishedAt)}`}
              disabled={putBack.isPending}
              onPress={() => putBack.mutate({ shareLinkId: shareLink.id, givenId: id })}
            />
          )}
        </Row>
      ))}
      {putBack.error ? <ProblemNotice code={codeOf(putBack.error)} /> : null}
    </View>
  );
};

const styles = StyleSheet.create({
  list: { gap: SPACE.hair },
  words: { flexGrow: 1, flexBasis: 160 },
});
