import type { Decisions } from '../lesson/lesson';
import { kindOfEdit, type Edit } from './edit';

/** The decisions after one more edit: its kind changes the slice that it is about. */
export const applyEdit = (decisions: Decisions, edit: Edit): Decisions => {
  const { slice, apply } = kindOfEdit(edit);
  return { ...decisions, [slice]: apply(decisions[slice], edit) };
};
