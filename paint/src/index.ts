export * from './context';
export { HeldInk, type Sheet } from './held-ink';
export { materialWidth, paintPage, placeOf } from './layers/ink';
export { paintMask } from './layers/picture';
export { TITLE_FONT } from './layers/set-words';
export * from './painter';
