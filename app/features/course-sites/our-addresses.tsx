import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { TOOL_PATHS } from '@under-chalk/core/course-site/site';
import { Button } from '../../ui/button';
import { COPIED_WORDS, copyText, type Copied } from '../../ui/copy-text';
import { Row } from '../../ui/row';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';

/** What a course site is told of Under Chalk, in the words that such sites have for it. */
const OURS = [
  { name: 'Where people are sent first (initiate login URL)', path: TOOL_PATHS.login },
  { name: 'Where they come to (target link and redirect URI)', path: TOOL_PATHS.launch },
  { name: 'Our keys (public keyset URL)', path: TOOL_PATHS.keys },
] as const;

export const OurAddresses = () => {
  const [copied, setCopied] = useState<Copied>('no');
  return (
    <View style={styles.group}>
      <Words>The course site asks for these, where it takes in a tool by hand:</Words>
      <View role="list" aria-label="What the course site needs to know" style={styles.group}>
        {OURS.map(({ name, path }) => (
          <Row key={path}>
            <View style={styles.words}>
              <Words size="small" tone="soft">
                {name}
              </Words>
              <Words selectable style={styles.address}>
                {location.origin + path}
              </Words>
            </View>
            <Button
              small
              label="Copy"
              spoken={`Copy ${name}`}
              onPress={() => void copyText(location.origin + path).then(setCopied)}
            />
          </Row>
        ))}
      </View>
      <Words size="small" role="status">
        {COPIED_WORDS[copied]}
      </Words>
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  words: { flexGrow: 1, flexShrink: 1, flexBasis: 200, paddingVertical: SPACE.hair },
  address: { ...({ overflowWrap: 'anywhere' } as object) },
});
