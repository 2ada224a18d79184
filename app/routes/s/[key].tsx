import { useLocalSearchParams } from 'expo-router';
import { ShelfPage } from '../../features/shelf/shelf-page';

/** Where the app itself shows a student's own page; a browser is given the lighter one (`app/watch`). */
const Shelf = () => {
  const { key } = useLocalSearchParams<{ key: string }>();
  return <ShelfPage pageKey={key} />;
};

export default Shelf;
