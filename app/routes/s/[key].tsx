import { useLocalSearchParams } from 'expo-router';
import { StudentPageScreen } from '../../features/student-page/student-page';

/** Where the app itself shows a student's own page; a browser is given the lighter one (`app/watch`). */
const PageContent = () => {
  const { key } = useLocalSearchParams<{ key: string }>();
  return <StudentPageScreen pageKey={key} />;
};

export default PageContent;
