import { QueryFailedError } from 'typeorm';

/** Codes with which the driver or the system says that the database is not there just now. */
const AWAY = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'EPIPE',
  'ENOTFOUND',
  'EAI_AGAIN',
  'ETIMEDOUT',
  'EHOSTUNREACH',
  'ENETUNREACH',
  'PROTOCOL_CONNECTION_LOST',
  'PROTOCOL_ENQUEUE_AFTER_FATAL_ERROR',
  'PROTOCOL_SEQUENCE_TIMEOUT',
  'POOL_CLOSED',
  'ER_SERVER_SHUTDOWN',
  'ER_CON_COUNT_ERROR',
  'ER_TOO_MANY_USER_CONNECTIONS',
  'ER_CONNECTION_KILLED',
  'ER_NORMAL_SHUTDOWN',
  'ER_QUERY_INTERRUPTED',
]);

/** Error numbers of MariaDB for the same, where the driver knows no name: 1927, connection was killed. */
const AWAY_NUMBERS = new Set([1927, 1053, 1077, 1079, 1080]);

/**
 * Codes with which MariaDB says that there is no room left: its disk is full, a table cannot grow, or a temporary one cannot.
 * Errors of writing carry the number of the system in their text (28, no space; 122, quota).
 */
const FULL = new Set(['ER_DISK_FULL', 'ER_RECORD_FILE_FULL', 'ER_TEMP_FILE_WRITE_FAILURE']);
const FULL_NUMBERS = new Set([1021, 1114, 1878]);
const NO_ROOM = /\(Errcode: (28|122)\b|No space left on device/;

interface DriverError {
  readonly code?: string;
  readonly errno?: number;
  readonly fatal?: boolean;
  readonly message?: string;
}

const driverError = (error: unknown): DriverError =>
  ((error instanceof QueryFailedError ? error.driverError : error) ?? {}) as DriverError;

/** True where the database could not write because it has no room. The statement, or its transaction, was taken back. */
export function isDiskFull(error: unknown): boolean {
  const { code, errno, message } = driverError(error);
  return (
    (code !== undefined && FULL.has(code)) ||
    (errno !== undefined && FULL_NUMBERS.has(errno)) ||
    (/^ER_/.test(code ?? '') && NO_ROOM.test(message ?? ''))
  );
}

/** True where an error says that the database does not answer, or can write nothing, so that the same may go through later. */
export function isDatabaseAway(error: unknown): boolean {
  const { code, errno, message } = driverError(error);
  return (
    isDiskFull(error) ||
    (code !== undefined && AWAY.has(code) && !isOtherSystem(error)) ||
    (errno !== undefined && AWAY_NUMBERS.has(errno)) ||
    /connection is in closed state|Connection lost|Pool is closed|Driver not Connected/i.test(message ?? '')
  );
}

/** A mail server that is not there has the same codes; the mailer's errors name their command. */
const isOtherSystem = (error: unknown): boolean =>
  typeof error === 'object' && error !== null && 'command' in error;

/** Deadlock found, or waited too long for a lock: the transaction was rolled back and may be tried again. */
export function isLockConflict(error: unknown): boolean {
  const { code } = driverError(error);
  return code === 'ER_LOCK_DEADLOCK' || code === 'ER_LOCK_WAIT_TIMEOUT';
}
