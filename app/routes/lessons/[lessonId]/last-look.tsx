export { LastLookPage as default } from '../../../features/last-look/last-look-page';
