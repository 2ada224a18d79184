import * as z from 'zod';
import { layoutSchema } from '../../lesson/layout';
import { always, kindOf } from '../kind';
import { defaultLayoutSlice } from '../slices/default-layout';

/** Sets how surface and camera share the picture wherever nothing else is decided. */
export const setDefaultLayout = kindOf({
  schema: z.object({ do: z.literal('set-default-layout'), layout: layoutSchema }),
  slice: defaultLayoutSlice,
  apply: (_before, { layout }) => layout,
  touches: ({ layout }) => [{ slot: 'defaultLayout', value: layout }],
  isUndoable: always,
  inWords: () => 'changed the default layout',
});
