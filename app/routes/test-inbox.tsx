export { TestInboxPage as default } from '../features/mail/test-inbox-page';
