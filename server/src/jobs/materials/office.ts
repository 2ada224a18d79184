import { AppError } from '@under-chalk/core/errors/errors';
import { limited, watchWork } from '@under-chalk/render';
import { spawn, spawnSync } from 'node:child_process';
import {
  copyFile,
  mkdir,
  mkdtemp,
  open,
  readdir,
  rename,
  rm,
  symlink,
  writeFile,
} from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** As what texts are read: left to guess, LibreOffice would take a torn one for plain text. */
const FILTERS: Readonly<Record<string, string>> = {
  '.docx': 'MS Word 2007 XML',
  '.doc': 'MS Word 97',
  '.odt': 'writer8',
  '.odp': 'impress8',
};

const DEADLINE_MS = 90_000;
const MOST_MEMORY_BYTES = 3_000_000_000;

/** What LibreOffice must not do with a file of somebody else's: fetch anything, or run what is in it. */
const SETTINGS = `<?xml version="1.0" encoding="UTF-8"?>
<oor:items xmlns:oor="http://openoffice.org/2001/registry">
<item oor:path="/org.openoffice.Office.Common/Security/Scripting"><prop oor:name="MacroSecurityLevel" oor:op="fuse"><value>3</value></prop></item>
<item oor:path="/org.openoffice.Office.Common/Security/Scripting"><prop oor:name="DisableMacrosExecution" oor:op="fuse"><value>true</value></prop></item>
<item oor:path="/org.openoffice.Office.Common/Security/Scripting"><prop oor:name="BlockUntrustedRefererLinks" oor:op="fuse"><value>true</value></prop></item>
<item oor:path="/org.openoffice.Office.Writer/Content/Update"><prop oor:name="Link" oor:op="fuse"><value>0</value></prop></item>
</oor:items>
`;

/** The end of a ZIP archive (APPNOTE 4.3.16), with the longest comment that it may have, bytes. */
const ZIP_END_BYTES = 22 + 65_535;

/** Whether an archive has its end; what is no archive has none to miss. */
const isWhole = async (path: string): Promise<boolean> => {
  const file = await open(path, 'r');
  try {
    const { size } = await file.stat();
    const head = (await file.read(Buffer.alloc(4), 0, 4, 0)).buffer;
    if (head.toString('latin1') !== 'PK\x03\x04') return true;
    const from = Math.max(0, size - ZIP_END_BYTES);
    const end = (await file.read(Buffer.alloc(size - from), 0, size - from, from)).buffer;
    return end.includes('PK\x05\x06', 0, 'latin1');
  } finally {
    await file.close();
  }
};

const works = (program: string, ...args: string[]) =>
  spawnSync(program, args, { stdio: 'ignore' }).status === 0;

let found: { office: boolean; alone: readonly string[] } | null = null;

/** What there is on this machine, tried once: LibreOffice, and a way to run it where there is no network. */
const programs = () =>
  (found ??= {
    office: works('soffice', '--version'),
    alone: works('unshare', '-n', 'true')
      ? ['unshare', '-n']
      : works('unshare', '-r', '-n', 'true')
        ? ['unshare', '-r', '-n']
        : [],
  });

/** Whether files of office programs can be opened here. */
export const canOpenOffice = (): boolean => {
  const { office, alone } = programs();
  // A document may ask for pictures from anywhere: without a way to keep it from that it isn't opened.
  return office && alone.length > 0;
};

/**
 * Makes a PDF of a file of an office program, by LibreOffice without a window, without network and without anything
 * that is in it being run.
 *
 * @param ending of its name, as `.pptx`: LibreOffice goes by it
 * @throws AppError `office-missing`; `material-unreadable`; `material-too-heavy` when it takes too long
 */
export const officePdf = async (path: string, ending: string, out: string): Promise<void> => {
  if (!canOpenOffice()) throw new AppError('office-missing');
  if (!(await isWhole(path))) throw new AppError('material-unreadable', 'its end is missing');
  const folder = await mkdtemp(join(tmpdir(), 'under-chalk-office-'));
  try {
    const profile = join(folder, 'profile');
    await mkdir(join(profile, 'user'), { recursive: true });
    await writeFile(join(profile, 'user', 'registrymodifications.xcu'), SETTINGS);
    const named = join(folder, `material${ending}`);
    await symlink(path, named);
    const made = join(folder, 'made');
    await run(folder, [
      `-env:UserInstallation=file://${profile}`,
      ...['--headless', '--norestore', '--nolockcheck', '--nodefault'],
      ...(FILTERS[ending] ? [`--infilter=${FILTERS[ending]}`] : []),
      ...['--convert-to', 'pdf', '--outdir', made, named],
    ]);
    const [pdf] = await readdir(made).catch(() => []);
    if (!pdf) throw new AppError('material-unreadable', 'LibreOffice made nothing of it');
    // The folder of temporary files may be on another disk.
    await copyFile(join(made, pdf), `${out}.draft`);
    await rename(`${out}.draft`, out);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
};

const run = (folder: string, args: readonly string[]): Promise<void> =>
  new Promise((resolve, reject) => {
    const [program, ...rest] = limited([...programs().alone, 'soffice', ...args], {
      dataBytes: MOST_MEMORY_BYTES,
      background: true,
    });
    const child = spawn(program!, rest, {
      stdio: 'ignore',
      env: { PATH: process.env['PATH'] ?? '', HOME: folder, LANG: 'C.UTF-8' },
      // soffice starts another process: both end together.
      detached: true,
    });
    const clock = watchWork(child.pid, { deadlineMs: DEADLINE_MS }, () => {
      if (child.pid) process.kill(-child.pid, 'SIGKILL');
      reject(new AppError('material-too-heavy', 'LibreOffice took too long'));
    });
    child.once('error', (error) => {
      clock.stop();
      reject(error);
    });
    child.once('exit', (code) => {
      clock.stop();
      if (code === 0) resolve();
      else reject(new AppError('material-unreadable', `LibreOffice ended with ${code}`));
    });
  });
