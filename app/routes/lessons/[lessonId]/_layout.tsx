export { LessonLayout as default } from '../../../features/lessons/lesson-layout';
