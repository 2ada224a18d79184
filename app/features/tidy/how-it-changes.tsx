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
const DISSOLVES = [
  { value: '0', label: 'at once' },
  { value: '300000', label: 'softly' },
  { value: '600000', label: 'slowly' },
];

/** How one layout becomes the next, and the picture before a cut the one after it. */
export const HowItChanges = ({ lesson }: { lesson: Lesson }) => {
  const { put } = useEdits();
  const { changeUs, dissolveUs } = lesson.decisions;
  const value = String(changeUs);
  const label = CHANGES.find((change) => change.value === value)?.label ?? 'soft';
  return (
    <ChoiceLine
      label="When the layout changes, it changes"
      value={dissolveUs > 0 ? `${label}, and so do cuts` : label}
    >
      <Choices
        label="When the layout changes, it changes"
        hideLabel
        choices={CHANGES}
        value={value}
        onChoose={(chosen) => put({ do: 'soften', changeUs: Number(chosen) })}
      />
      <Choices
        label="Where something was cut, the picture changes"
        choices={DISSOLVES}
        value={String(dissolveUs)}
        onChoose={(chosen) => put({ do: 'dissolve', dissolveUs: Number(chosen) })}
      />
      <Words size="small" tone="soft">
        Softly, the last picture that was kept goes over into the next. Nothing that was cut is
        seen.
      </Words>
    </ChoiceLine>
  );
};
