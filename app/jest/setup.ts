const { TextDecoder, TextEncoder } = jest.requireActual<typeof globalThis>('util');

/** What jsdom lacks of a browser. */
Object.assign(globalThis, {
  matchMedia: () => ({
    matches: false,
    addListener: () => undefined,
    removeListener: () => undefined,
    addEventListener: () => undefined,
    removeEventListener: () => undefined,
  }),
  TextDecoder,
  TextEncoder,
  __ExpoImportMetaRegistry: { url: 'http://localhost/' },
});

export {};
