/**
 * The name under which a browser keeps a submission. A link's token opens the film, and isn't left lying about: its beginning names it as
 * well.
 */
export const submissionKey = (token: string): string => `submission ${token.slice(0, 8)}`;
