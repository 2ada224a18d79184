import { useRouter } from 'expo-router';
import ArrowLeft from 'lucide-react-native/icons/arrow-left';
import { StyleSheet, View } from 'react-native';
import { Button } from '../../ui/button';

/** The head of pages that stand beside the lessons: the way back. */
export const BackToLessons = () => {
  const router = useRouter();
  return (
    <View style={styles.head}>
      <Button kind="bare" small icon={ArrowLeft} label="Lessons" onPress={() => router.push('/')} />
    </View>
  );
};

const styles = StyleSheet.create({ head: { alignItems: 'flex-start' } });
