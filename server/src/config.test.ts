import { foldersIn, readConfig } from './config';

it('has sensible values for everything', () => {
  const config = readConfig({}, null);
  expect(config).toMatchObject({ port: 4750, host: '127.0.0.1', demo: false });
  expect(config.folders.home).toMatch(/data$/);
});
it('keeps all that is the teacher’s in one folder', () => {
  for (const folder of Object.values(foldersIn('/lessons'))) {
    expect(folder.startsWith('/lessons')).toBe(true);
  }
});
it('refuses to open the demo to other machines', () => {
  const environment = { UNDER_CHALK_DEMO: '1', HOST: '0.0.0.0' };
  expect(() => readConfig(environment, null)).toThrow('npm start -- --own');
  expect(readConfig({ ...environment, UNDER_CHALK_DEMO: '0' }, null).host).toBe('0.0.0.0');
});
it('says which value is off', () => {
  expect(() => readConfig({ PORT: 'many' }, null)).toThrow(/PORT/);
  expect(() => readConfig({ PORT: '70000' }, null)).toThrow(/PORT/);
});
