export { HandOutPage as default } from '../../../features/hand-out/hand-out-page';
