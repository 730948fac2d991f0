import { pino } from 'pino';

/** The server's log, as JSON lines on standard output. `LOG_LEVEL` sets how much. */
export const log = pino({
  level: process.env.LOG_LEVEL ?? 'info',
  // What was bound to a statement is people's data, and may be long.
  redact: { paths: ['error.parameters', 'error.parent', 'error.original'], remove: true },
});
