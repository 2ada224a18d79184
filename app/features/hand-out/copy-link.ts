import { copyText, type Copied } from '../../ui/copy-text';

export const addressOf = (token: string): string => `${location.origin}/w/${token}`;

/** Copies a link's address. */
export const copyLink = (token: string | Promise<string>): Promise<Copied> =>
  copyText(Promise.resolve(token).then(addressOf));
