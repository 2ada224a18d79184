/** The size of a file in words: a page of text is no megabyte, and what is small has a decimal. */
export const bytesInWords = (bytes: number): string =>
  bytes < 1e6 ? `${Math.max(1, Math.round(bytes / 1_000))} kB` : `${(bytes / 1e6).toFixed(1)} MB`;
