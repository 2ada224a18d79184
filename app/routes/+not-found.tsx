import { useRouter } from 'expo-router';
import { Button } from '../ui/button';
import { ProblemNotice } from '../ui/notice';
import { Screen } from '../ui/screen';

const NotFound = () => {
  const router = useRouter();
  return (
    <Screen name="Nothing here">
      <ProblemNotice code="not-found">
        <Button label="Go to the lessons" onPress={() => router.replace('/')} />
      </ProblemNotice>
    </Screen>
  );
};

export default NotFound;
