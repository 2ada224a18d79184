/** What an error of Node.js or of a library says of itself. Anything can be thrown: a DOMException has a number as its code. */
export const factsOf = (
  error: unknown,
): { readonly code: string | null; readonly status: number | null } => {
  const { code, status } = Object(error) as { readonly code?: unknown; readonly status?: unknown };
  return {
    code: typeof code === 'string' ? code : null,
    status: typeof status === 'number' ? status : null,
  };
};

const GONE = ['EPIPE', 'ECONNRESET', 'ECONNABORTED', 'ERR_STREAM_PREMATURE_CLOSE'];

/** Whether the client has disconnected: no fault of the server, and nothing to log. */
export const isGone = (error: unknown): boolean => GONE.includes(factsOf(error).code ?? '');
