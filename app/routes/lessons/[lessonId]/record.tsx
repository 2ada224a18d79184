export { RecordPage as default } from '../../../features/record/record-page';
