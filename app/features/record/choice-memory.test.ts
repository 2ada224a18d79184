import { rememberChoice, rememberedChoice } from './choice-memory';

beforeEach(() => localStorage.clear());

it('asks nothing of the browser before something was chosen', () =>
  expect(rememberedChoice()).toMatchObject({ camera: 'none', microphone: 'none' }));

it('remembers what was chosen on this device', () => {
  const chosen = { ...rememberedChoice(), source: 'sound' as const, microphone: 'practice' };
  rememberChoice(chosen);
  expect(rememberedChoice()).toEqual(chosen);
});

it('is not thrown by what it finds in the store', () => {
  for (const odd of ['{', '{"source":"moon"}', 'null', '[]']) {
    localStorage.setItem('under-chalk choices', odd);
    expect(rememberedChoice().source).toBe('screen');
  }
});
