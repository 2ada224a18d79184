export * from './context';
export { paintMask } from './layers/picture';
export { TITLE_FONT } from './layers/words';
export * from './painter';
