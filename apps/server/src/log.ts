import { pino } from 'pino';

/** The server's log, as JSON lines on standard output. `LOG_LEVEL` sets how much. */
export const log = pino({ level: process.env.LOG_LEVEL ?? 'info' });
