import { problemWith } from './devices';

const refused = (name: string) => new DOMException('', name);

it('tells a refusal from a missing and from a busy device', () => {
  expect(problemWith('microphone', refused('NotAllowedError'))).toBe('microphone-refused');
  expect(problemWith('camera', refused('SecurityError'))).toBe('camera-refused');
  expect(problemWith('camera', refused('NotFoundError'))).toBe('camera-missing');
  expect(problemWith('microphone', refused('OverconstrainedError'))).toBe('microphone-missing');
  expect(problemWith('camera', refused('NotReadableError'))).toBe('device-busy');
});
it('has one answer for a screen that was not chosen', () =>
  expect(problemWith('screen', refused('NotAllowedError'))).toBe('screen-refused'));
