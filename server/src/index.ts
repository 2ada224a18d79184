export { createApp } from './app';
export { openParts } from './open-parts';
