import { Link, type Href } from 'expo-router';
import { StyleSheet } from 'react-native';
import { useTeacherText } from '../../messages/use-text';
import { Words } from '../../ui/text';

/** Opens the test inbox. */
export const TestInboxLink = () => {
  const { t } = useTeacherText();
  return (
    <Link href={'/test-inbox' as Href} style={styles.link}>
      <Words tone="action" style={styles.words}>
        {t('mail.testInbox')}
      </Words>
    </Link>
  );
};

const styles = StyleSheet.create({
  // As high as what a finger needs.
  link: { minHeight: 44, display: 'flex', alignItems: 'center' },
  words: { textDecorationLine: 'underline' },
});
