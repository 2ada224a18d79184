import type { PictureSize } from '@under-chalk/core/destination/size-name';

export const SIZE_NAMES: Record<PictureSize, string> = {
  '720p': '720p',
  '1080p': '1080p',
  'as-recorded': 'as recorded',
  finest: 'finest',
};

export const megabytes = (bytes: number): string => `${Math.max(0.1, bytes / 1e6).toFixed(1)} MB`;
