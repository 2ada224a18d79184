import { useRouter } from 'expo-router';
import { Button } from '../ui/button';
import { ProblemNotice } from '../ui/notice';
import { Screen } from '../ui/screen';
import { Heading } from '../ui/text';

const NotFound = () => {
  const router = useRouter();
  return (
    <Screen name="Nothing here">
      <Heading level={1}>Nothing here</Heading>
      <ProblemNotice code="not-found">
        <Button label="Go to the lessons" onPress={() => router.replace('/')} />
      </ProblemNotice>
    </Screen>
  );
};

export default NotFound;
