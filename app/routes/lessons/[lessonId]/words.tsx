export { WordsPage as default } from '../../../features/words/words-page';
