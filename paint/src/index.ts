export * from './context';
export { HeldInk } from './held-ink';
export type { MakeSheet, Sheet } from './layers/layer-painter';
export { materialWidth, paintPage, placeOf } from './layers/ink';
export { paintMask } from './layers/picture';
export { TITLE_FONT } from './layers/set-words';
export * from './painter';
