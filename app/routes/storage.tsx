export { StoragePage as default } from '../features/storage/storage-page';
