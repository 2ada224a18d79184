const { getDefaultConfig } = require('expo/metro-config');

const config = getDefaultConfig(__dirname);
const resolve = config.resolver.resolveRequest;

// In a browser gestures do without it, and it is as large as everything else together.
const NOT_IN_BROWSERS = 'react-native-reanimated';

// Zod's index pulls in its messages in forty languages; ours are our own.
config.resolver.resolveRequest = (context, name, platform) => {
  if (/zod/.test(context.originModulePath) && /locales\/index(\.js|\.cjs)?$/.test(name)) {
    return { type: 'empty' };
  }
  if (platform === 'web' && name === NOT_IN_BROWSERS) return { type: 'empty' };
  return (resolve ?? context.resolveRequest)(context, name, platform);
};

module.exports = config;
