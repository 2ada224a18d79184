import { WayBack } from '../../ui/way-back';

/** The head of pages that stand beside the lessons: the way back. */
export const BackToLessons = () => <WayBack label="Lessons" to="/" />;
