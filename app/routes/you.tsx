export { YouPage as default } from '../features/account/you-page';
