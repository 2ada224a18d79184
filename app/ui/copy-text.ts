/** How it came out. */
export type Copied = 'no' | 'yes' | 'failed';

export const COPIED_WORDS: Record<Copied, string> = {
  no: '',
  yes: 'Copied.',
  failed: 'The browser does not let it be copied; mark it above.',
};

/**
 * Copies text, also one that is only being made: browsers let a page copy in a press, and the press would be over by
 * then, so what is to be copied is promised.
 *
 * @returns how it came out
 */
export const copyText = async (text: string | Promise<string>): Promise<Copied> => {
  const promised = Promise.resolve(text);
  try {
    const asBlob = promised.then((plain) => new Blob([plain], { type: 'text/plain' }));
    await navigator.clipboard.write([new ClipboardItem({ 'text/plain': asBlob })]);
    return 'yes';
  } catch {
    // An older browser, or one that forbids it: it may still take plain text.
    return navigator.clipboard?.writeText(await promised).then(
      () => 'yes' as const,
      () => 'failed' as const,
    );
  }
};
