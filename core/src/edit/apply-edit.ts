import type { Decisions } from './decisions';
import { kindOfEdit, type Edit } from './edit';

/** The decisions after one more edit: its kind changes the slice that it is about. */
export const applyEdit = (decisions: Decisions, edit: Edit): Decisions => {
  const { slice, apply } = kindOfEdit(edit);
  return { ...decisions, [slice.name]: apply(decisions[slice.name], edit) };
};
