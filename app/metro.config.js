const { getDefaultConfig } = require('expo/metro-config');
const { mkdirSync, readdirSync, writeFileSync } = require('node:fs');
const { dirname, join, relative } = require('node:path');

const config = getDefaultConfig(__dirname);
const resolve = config.resolver.resolveRequest;

// In a browser gestures do without it, and it is as large as everything else together.
const NOT_IN_BROWSERS = 'react-native-reanimated';

/** The catalogues with parsed messages, so that no parser has to be sent. Metro must find them there when it begins. */
const PARSED = join(__dirname, '.messages');
const MESSAGES = join(__dirname, 'messages');
let messages;
const prepare = async () => {
  messages = await import('../scripts/lib/messages.mjs');
  for (const name of readdirSync(MESSAGES, { recursive: true })) {
    const path = join(MESSAGES, name);
    if (!messages.CATALOGUES.test(path)) continue;
    const out = join(PARSED, name);
    mkdirSync(dirname(out), { recursive: true });
    writeFileSync(out, messages.parsedCatalogue(path));
  }
  return config;
};

// Zod's index pulls in its messages in forty languages; ours are our own.
config.resolver.resolveRequest = (context, name, platform) => {
  if (/zod/.test(context.originModulePath) && /locales\/index(\.js|\.cjs)?$/.test(name)) {
    return { type: 'empty' };
  }
  if (platform === 'web' && name === NOT_IN_BROWSERS) return { type: 'empty' };
  const wanted = name === messages.PARSER ? messages.NO_PARSER : name;
  const found = (resolve ?? context.resolveRequest)(context, wanted, platform);
  if (found.type === 'sourceFile' && messages.CATALOGUES.test(found.filePath)) {
    return { type: 'sourceFile', filePath: join(PARSED, relative(MESSAGES, found.filePath)) };
  }
  return found;
};

// A module is compiled and run when something of it is used, not when a page begins: most of a page's script isn't needed
// to show it. `import.meta.url` has no value then: workers are made with `location.href`, which the bundler accepts too.
config.transformer.getTransformOptions = async () => ({
  transform: { experimentalImportSupport: true, inlineRequires: true },
});

module.exports = prepare();
