/** How many pages a material has, in words. */
export const pagesInWords = (pages: number): string =>
  pages === 1 ? 'one page' : `${pages} pages`;
