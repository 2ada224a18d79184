import { useLocalSearchParams } from 'expo-router';
import { WatchPage } from '../../features/watch/watch-page';

/** Where the app itself shows a student's page; a browser is given the lighter one (`app/watch`). */
const Watch = () => {
  const { token } = useLocalSearchParams<{ token: string }>();
  return <WatchPage token={token} />;
};

export default Watch;
