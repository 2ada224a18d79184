import type { Lesson } from '@under-chalk/core/lesson/lesson';
import { useEdits } from '../../data/edits';
import { ChoiceLine } from '../../ui/choice-line';
import { Choices } from '../../ui/choices';
import { Words } from '../../ui/text';

const CHANGES = [
  { value: '0', label: 'at once' },
  { value: '500000', label: 'soft' },
  { value: '1000000', label: 'slow' },
];
const CROSSFADES = [
  { value: '0', label: 'at once' },
  { value: '300000', label: 'softly' },
  { value: '600000', label: 'slowly' },
];

/** How one layout becomes the next, and the picture before a cut the one after it. */
export const TransitionChoice = ({ lesson }: { lesson: Lesson }) => {
  const { put } = useEdits();
  const { layoutTransitionUs, crossFadeUs } = lesson.decisions;
  const value = String(layoutTransitionUs);
  const label = CHANGES.find((change) => change.value === value)?.label ?? 'soft';
  return (
    <ChoiceLine
      label="When the layout changes, it changes"
      value={crossFadeUs > 0 ? `${label}, and so do cuts` : label}
    >
      <Choices
        label="When the layout changes, it changes"
        hideLabel
        choices={CHANGES}
        value={value}
        onChoose={(chosen) =>
          put({ do: 'set-layout-transition', layoutTransitionUs: Number(chosen) })
        }
      />
      <Choices
        label="Where something was cut, the picture changes"
        choices={CROSSFADES}
        value={String(crossFadeUs)}
        onChoose={(chosen) => put({ do: 'set-cross-fade', crossFadeUs: Number(chosen) })}
      />
      <Words size="small" tone="soft">
        Softly, the last picture that was kept goes over into the next. Nothing that was cut is
        seen.
      </Words>
    </ChoiceLine>
  );
};
