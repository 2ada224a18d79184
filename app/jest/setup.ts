/** What jsdom lacks of a browser. */
Object.assign(globalThis, {
  matchMedia: () => ({
    matches: false,
    addListener: () => undefined,
    removeListener: () => undefined,
    addEventListener: () => undefined,
    removeEventListener: () => undefined,
  }),
  __ExpoImportMetaRegistry: { url: 'http://localhost/' },
});
