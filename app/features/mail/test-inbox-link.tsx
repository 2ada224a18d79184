import { Link, type Href } from 'expo-router';
import { StyleSheet } from 'react-native';
import { Words } from '../../ui/text';

/** The way to the e-mails that were sent in practice. */
export const TestInboxLink = () => (
  <Link href={'/test-inbox' as Href} style={styles.link}>
    <Words tone="action" style={styles.words}>
      Test inbox
    </Words>
  </Link>
);

const styles = StyleSheet.create({
  // As high as what a finger needs.
  link: { minHeight: 44, display: 'flex', alignItems: 'center' },
  words: { textDecorationLine: 'underline' },
});
