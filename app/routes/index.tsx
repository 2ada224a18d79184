export { LessonsPage as default } from '../features/lessons/lessons-page';
