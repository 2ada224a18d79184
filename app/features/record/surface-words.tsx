import { surfaceWords } from '@under-chalk/core/record/permission-help';
import { PRACTICE } from '../../capture/devices';
import { Words } from '../../ui/text';
import type { Chosen, Sources } from './use-sources';

interface Props {
  readonly chosen: Chosen;
  readonly sources: Sources;
  /** Only a part of the surface is shown. */
  readonly cropped?: boolean;
}

/** What is and isn't in the picture. */
export const SurfaceWords = ({ chosen, sources, cropped = false }: Props) => (
  <Words size="small" testID="surface-words">
    {chosen.screen === PRACTICE
      ? 'The practice screen is in the picture.'
      : sources.screen
        ? surfaceWords(sources.surfaceKind)
        : 'Nothing of a screen is in the picture.'}
    {cropped ? ' Only the part you marked is shown; the rest is kept.' : ''}
  </Words>
);
