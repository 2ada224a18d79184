/** Text as it may stand between tags and in quoted attributes (HTML, 13.3). */
export const escapedHtml = (text: string): string =>
  text.replace(
    /[&<>"']/g,
    (sign) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&#39;' })[sign]!,
  );
