import { mustBePublic } from './public-address';

const OURS = 'https://chalk.lantern-quay.example';
const outcome = (address: string, origin = OURS) =>
  mustBePublic(address, origin).then(
    () => 'taken',
    ({ code }: { code: string }) => code,
  );

it.each([
  'http://93.184.215.14/keys',
  'https://127.0.0.1/keys',
  'https://127.1/keys',
  'https://2130706433/keys',
  'https://0x7f000001/keys',
  'https://10.1.2.3:8443/keys',
  'https://169.254.169.254/latest',
  'https://192.168.1.1/keys',
  'https://[::1]/keys',
  'https://[::ffff:127.0.0.1]/keys',
  'https://[fd00::1]/keys',
  'https://localhost/keys',
])('refuses %s', async (address) => expect(await outcome(address)).toBe('site-unfit'));

it('takes public hosts that are encrypted', async () =>
  expect(await outcome('https://93.184.215.14/keys')).toBe('taken'));

it('takes hosts of this machine where Under Chalk is opened there by itself', async () =>
  expect(await outcome('http://127.0.0.1:4800/keys', 'http://localhost:4750')).toBe('taken'));
