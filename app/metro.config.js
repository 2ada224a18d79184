const { getDefaultConfig } = require('expo/metro-config');

const config = getDefaultConfig(__dirname);
const resolve = config.resolver.resolveRequest;

// Zod's index pulls in its messages in forty languages; ours are our own.
config.resolver.resolveRequest = (context, name, platform) => {
  if (/zod/.test(context.originModulePath) && /locales\/index(\.js|\.cjs)?$/.test(name)) {
    return { type: 'empty' };
  }
  return (resolve ?? context.resolveRequest)(context, name, platform);
};

module.exports = config;
