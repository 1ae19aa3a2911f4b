import pino from 'pino';

/** Structured log on stderr; LOG_LEVEL sets how much of it. */
export const log = pino({ level: process.env['LOG_LEVEL'] ?? 'warn' }, pino.destination(2));
