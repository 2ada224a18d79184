import { aspectOf } from '../../lesson/layout';
import type { Frame } from '../../lesson/frame';
import { croppedTo, WHOLE } from '../geometry';
import type { Layer } from '../layers';
import type { ReadSource } from './source';

/** What lies behind all, as the frame is dressed. */
export const groundOf = ({ ground, shape }: Frame): Layer[] => {
  switch (ground.is) {
    case 'colour':
      return [{ kind: 'ground', colour: ground.colour }];
    case 'gradient':
      return [{ kind: 'ground', colour: ground.from, downTo: ground.to }];
    case 'page': {
      const { of } = ground;
      const from = croppedTo(of.aspect, aspectOf(shape));
      return [{ kind: 'page', of, from, to: WHOLE, opacity: 1, clear: false }];
    }
  }
};

export const groundSource: ReadSource = ({ lesson }) => {
  const shown = { layers: groundOf(lesson.decisions.frame), moving: false };
  return { borders: [], at: () => shown };
};
