export { CourseSitesPage as default } from '../../features/course-sites/course-sites-page';
