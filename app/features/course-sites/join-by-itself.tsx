import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { call, codeOf } from '../../data/client';
import { Button } from '../../ui/button';
import { COPIED_WORDS, copyText, type Copied } from '../../ui/copy-text';
import { ProblemNotice } from '../../ui/notice';
import { Row } from '../../ui/row';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';

/** An address that a course site joins at by itself (LTI dynamic registration). */
export const JoinByItself = () => {
  const [copied, setCopied] = useState<Copied>('no');
  const make = useMutation({ mutationFn: () => call('startRegistration') });
  const address = make.data?.address;
  return (
    <View style={styles.group}>
      <Words>
        Most sites do it by themselves (“dynamic registration”): give the site an address that is
        good for an hour, and for one site.
      </Words>
      {address ? (
        <View role="list" aria-label="Address for joining">
          <Row>
            <Words selectable style={styles.address}>
              {address}
            </Words>
            <Button
              small
              label="Copy"
              spoken="Copy the address for joining"
              onPress={() => void copyText(address).then(setCopied)}
            />
          </Row>
        </View>
      ) : (
        <View style={styles.line}>
          <Button
            kind="main"
            label="Make an address for joining"
            disabled={make.isPending}
            onPress={() => make.mutate()}
          />
        </View>
      )}
      <Words size="small" role="status">
        {copied !== 'no'
          ? COPIED_WORDS[copied]
          : address
            ? 'When the site has joined, it stands above.'
            : ''}
      </Words>
      {make.error ? <ProblemNotice code={codeOf(make.error)} /> : null}
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  line: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
  address: {
    ...{ flexGrow: 1, flexShrink: 1, flexBasis: 200, paddingVertical: SPACE.hair },
    ...({ overflowWrap: 'anywhere' } as object),
  },
});
