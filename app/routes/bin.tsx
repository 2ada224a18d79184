export { BinPage as default } from '../features/bin/bin-page';
