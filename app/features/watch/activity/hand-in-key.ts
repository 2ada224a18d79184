/**
 * The name under which a browser keeps a hand-in. A link's token opens the film, and isn't left lying about: its beginning names it as
 * well.
 */
export const handInKey = (token: string): string => `hand-in ${token.slice(0, 8)}`;
