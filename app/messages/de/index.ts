import common from './common.json';
import errors from '@under-chalk/core/messages/de/errors.json';
import player from './player.json';
import studentPage from './student-page.json';
import submission from './submission.json';
import watch from './watch.json';

export const messages = {
  ...common,
  ...errors,
  ...player,
  ...studentPage,
  ...submission,
  ...watch,
};
