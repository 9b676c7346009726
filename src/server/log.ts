import pino from 'pino';

/**
 * The program's log, one JSON object a line on standard error. It tells what was asked and how it went: never the name
 * of a pupil, a title or a document.
 */
export const log = pino(
  { level: process.env['REED_LOG'] ?? (process.env['NODE_ENV'] === 'test' ? 'silent' : 'info'), base: undefined },
  pino.destination({ fd: 2, sync: true }),
);
