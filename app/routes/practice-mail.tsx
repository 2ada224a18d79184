export { PracticeMailPage as default } from '../features/mail/practice-mail-page';
