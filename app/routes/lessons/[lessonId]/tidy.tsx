export { TidyPage as default } from '../../../features/tidy/tidy-page';
