/** Has the browser save some bytes as a file. */
export const saveBytes = (bytes: BlobPart, type: string, name: string): void => {
  const address = URL.createObjectURL(new Blob([bytes], { type }));
  const link = document.createElement('a');
  link.href = address;
  link.download = name;
  link.click();
  // The browser has taken it up by then.
  setTimeout(() => URL.revokeObjectURL(address), 60_000);
};
