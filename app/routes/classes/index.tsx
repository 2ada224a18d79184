export { ClassesPage as default } from '../../features/classes/classes-page';
