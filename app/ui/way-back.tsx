import { useRouter, type Href } from 'expo-router';
import ArrowLeft from 'lucide-react-native/icons/arrow-left';
import { StyleSheet, View } from 'react-native';
import { Button } from './button';

/** The head of a page that stands below or beside another: the way back to that. */
export const WayBack = ({ label, to }: { label: string; to: Href }) => {
  const router = useRouter();
  return (
    <View style={styles.head}>
      <Button kind="bare" small icon={ArrowLeft} label={label} onPress={() => router.push(to)} />
    </View>
  );
};

const styles = StyleSheet.create({ head: { alignItems: 'flex-start' } });
