/** How tables are written (CSV, RFC 4180). Cells that spreadsheets would take for a formula are led by an apostrophe (CWE-1236). */
export const WRITTEN = { header: true, escape_formulas: true, record_delimiter: '\r\n' } as const;
