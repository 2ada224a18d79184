import pino from 'pino';

/** Where the server writes down what happens. What it writes holds no secret: no token, no passphrase, no words of a lesson. */
export interface Log {
  readonly info: (message: string, facts?: object) => void;
  readonly warn: (message: string, error?: unknown) => void;
  readonly error: (message: string, error?: unknown) => void;
  /** The same, with these facts in each line. */
  readonly with: (facts: object) => Log;
}

const LEVELS = ['debug', 'info', 'warn', 'error', 'silent'];

const wrapped = (lines: pino.Logger): Log => ({
  info: (message, facts) => lines.info(facts ?? {}, message),
  warn: (message, error) => lines.warn({ err: error }, message),
  error: (message, error) => lines.error({ err: error }, message),
  with: (facts) => wrapped(lines.child(facts)),
});

/**
 * A log of one line of JSON each, on standard error.
 *
 * @param level the least that is written down; `info` where it is none that is known
 */
export const openLog = (level = 'info'): Log =>
  wrapped(
    pino(
      {
        level: LEVELS.includes(level) ? level : 'info',
        base: null,
        timestamp: pino.stdTimeFunctions.isoTime,
        formatters: { level: (label) => ({ level: label }) },
        redact: {
          paths: ['*.token', '*.passphrase', '*.code', '*.cookie', 'req', 'headers'],
          remove: true,
        },
      },
      pino.destination({ dest: 2, sync: true }),
    ),
  );
