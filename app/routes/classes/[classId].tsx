export { ClassPage as default } from '../../features/classes/class-page';
