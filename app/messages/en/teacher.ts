import common from './common.json';
import player from './player.json';
import account from './account.json';
import bin from './bin.json';
import cover from './cover.json';
import layouts from './layouts.json';
import mail from './mail.json';
import signIn from './sign-in.json';
import storage from './storage.json';
import styles from './styles.json';

/** Text of the teacher's pages. Students' pages don't load it. */
export const teacherMessages = {
  ...common,
  ...player,
  ...account,
  ...bin,
  ...cover,
  ...layouts,
  ...mail,
  ...signIn,
  ...storage,
  ...styles,
};
