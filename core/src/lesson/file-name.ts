/**
 * The name a film is saved under: the lesson's title, with what file systems refuse replaced by
 * spaces, at most 100 characters, never empty and never a reserved name.
 */
export const fileNameOf = (title: string, extension: string): string => {
  const clean = title
    .normalize('NFC')
    // Refused by Windows, macOS or Linux, and control characters.
    .replace(/[<>:"/\\|?*\u0000-\u001f\u007f]/g, ' ')
    .replace(/\s+/g, ' ')
    .replace(/^[. ]+|[. ]+$/g, '')
    .slice(0, 100)
    .trim();
  const reserved = /^(con|prn|aux|nul|com\d|lpt\d)$/i.test(clean);
  return `${clean === '' || reserved ? 'Lesson' : clean}.${extension}`;
};
