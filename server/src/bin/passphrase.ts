/** `npm run passphrase`: sets another passphrase where the old one is forgotten. Whoever can read the data folder may. */
import { LEAST_PASSPHRASE, passphraseSchema } from '@under-chalk/core/contract/session';
import { existsSync } from 'node:fs';
import { createInterface } from 'node:readline/promises';
import { readConfig } from '../config';
import { AccountStore } from '../store/account-store';
import { openDatabase } from '../store/database';

const { folders } = readConfig(process.env, null);

const give = (words: string): never => {
  console.error(words);
  process.exit(1);
};

if (!existsSync(folders.database)) {
  give(`There is no Under Chalk in ${folders.home}. Say where with UNDER_CHALK_HOME=….`);
}
const database = await openDatabase(folders.database);
try {
  const accounts = new AccountStore(database);
  if (!(await accounts.isSetUp())) {
    give('No passphrase has been set yet: the address printed at the first start sets it.');
  }
  const lines = createInterface({ input: process.stdin, output: process.stdout });
  const read = passphraseSchema.safeParse(
    await lines.question(`The new passphrase, ${LEAST_PASSPHRASE} characters at least: `),
  );
  lines.close();
  if (!read.success) give(`That is too short: ${LEAST_PASSPHRASE} characters at least.`);
  else {
    await accounts.setPassphrase(read.data, null);
    console.log('It is set. All browsers have been signed out; sign in with it.');
  }
} finally {
  await database.destroy();
}
