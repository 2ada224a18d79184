export { WatchPage as default } from '../../features/watch/watch-page';
