/** Where a student's own page is reached. */
export const pageAddress = (key: string): string => `${location.origin}/s/${key}`;
