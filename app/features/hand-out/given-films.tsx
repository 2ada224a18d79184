import { StyleSheet, View } from 'react-native';
import type { HandOut } from '@under-chalk/core/contract/hand-outs';
import { formatSpoken } from '@under-chalk/core/time/us';
import { codeOf } from '../../data/client';
import { usePutBack } from '../../data/queries';
import { Button } from '../../ui/button';
import { momentInWords } from '../../ui/moment';
import { ProblemNotice } from '../../ui/notice';
import { Row } from '../../ui/row';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { SIZE_NAMES } from './film-words';

/** What has been given under a link, newest first; any of it can be given again. */
export const GivenFilms = ({ handOut }: { handOut: HandOut }) => {
  const putBack = usePutBack(handOut.lessonId);
  return (
    <View style={styles.list} role="list" aria-label="Films that were given under this link">
      {handOut.given.map(({ id, size, filmUs, givenAt, current }) => (
        <Row key={id}>
          <View style={styles.words}>
            <Words>{momentInWords(givenAt)}</Words>
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
              spoken={`Put back the film of ${momentInWords(givenAt)}`}
              disabled={putBack.isPending}
              onPress={() => putBack.mutate({ handOutId: handOut.id, givenId: id })}
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
