import { type DestinationStream, pino } from 'pino';
import { config } from './config.ts';

/** A log as JSON lines; an error with its message, its stack and its cause. */
export const makeLog = (level: string, out?: DestinationStream) =>
  pino(
    {
      level,
      // An error's own fields can't be listed: without this it would print as {}.
      serializers: { error: pino.stdSerializers.errWithCause },
      // What was bound to a statement is people's data, and may be long.
      // Whoever reads the log is not to come in by what a browser or a program sent.
      redact: {
        paths: [
          'error.parameters',
          'error.parent',
          'error.original',
          'error.sql',
          'req.headers.cookie',
          'req.headers.authorization',
          'res.headers["set-cookie"]',
        ],
        remove: true,
      },
    },
    out ?? pino.destination(1),
  );

/** The server's log, as JSON lines on standard output. `LOG_LEVEL` sets how much. */
export const log = makeLog(config().LOG_LEVEL);
