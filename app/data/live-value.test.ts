import { LiveValue } from './live-value';

it('tells everyone who watches, with the new value already there to be read', () => {
  const value = new LiveValue(1);
  const seen: string[] = [];
  const end = value.subscribe(() => seen.push(`first ${value.read()}`));
  value.subscribe(() => seen.push(`second ${value.read()}`));
  value.set(2);
  end();
  value.set(3);
  expect(seen).toEqual(['first 2', 'second 2', 'second 3']);
});

it('lets one who watches end it while being told, and the others are told all the same', () => {
  const value = new LiveValue('before');
  const seen: string[] = [];
  const end = value.subscribe(() => {
    seen.push('once');
    end();
  });
  value.subscribe(() => seen.push(value.read()));
  value.set('after');
  value.set('later');
  expect(seen).toEqual(['once', 'after', 'later']);
});
