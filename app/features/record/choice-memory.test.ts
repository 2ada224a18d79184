import { NONE, PRACTICE } from '../../capture/devices';
import { rememberChoice, rememberedChoice } from './choice-memory';

const canShare = (can: boolean) =>
  Object.defineProperty(navigator, 'mediaDevices', {
    configurable: true,
    value: can ? { getDisplayMedia: () => undefined } : {},
  });
beforeEach(() => {
  localStorage.clear();
  canShare(true);
});

it('begins with a screen, the camera and the microphone that the browser gives; never without a voice', () => {
  expect(rememberedChoice()).toMatchObject({ source: 'screen', camera: '', microphone: '' });
  canShare(false);
  expect(rememberedChoice()).toMatchObject({ source: 'camera', camera: '', microphone: '' });
});

it('remembers what was chosen, but nothing that was only for practising', () => {
  const first = rememberedChoice();
  rememberChoice({ ...first, camera: 'cam-2', cameraName: 'Desk', countIn: 5 });
  rememberChoice({
    ...rememberedChoice(),
    ...{ screen: PRACTICE, camera: PRACTICE, microphone: PRACTICE, ticks: false },
    pen: PRACTICE,
  });
  expect(rememberedChoice()).toMatchObject({
    ...{ screen: 'real', camera: 'cam-2', cameraName: 'Desk', microphone: '' },
    ...{ countIn: 5, ticks: false, pen: 'own' },
  });
  rememberChoice({ ...rememberedChoice(), camera: NONE });
  expect(rememberedChoice().camera).toBe(NONE);
});
