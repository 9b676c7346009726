import { databaseTrouble } from './trouble';

const fault = (code: string, message = 'it failed', more: object = {}) =>
  Object.assign(new Error(message), { code, ...more });

test.each([
  ['nobody listens', fault('ECONNREFUSED'), 'gone'],
  ['the socket is away', fault('ENOENT'), 'gone'],
  ['it is shutting down', fault('ER_SERVER_SHUTDOWN', 'x', { sqlState: '08S01' }), 'gone'],
  ['two waited for each other', fault('ER_LOCK_DEADLOCK', 'x', { sqlState: '40001' }), 'gone'],
  [
    'all connections are taken',
    Object.assign(new Error('Timeout acquiring a connection.'), { name: 'KnexTimeoutError' }),
    'gone',
  ],
  ['the connection broke', new Error('Connection lost: The server closed the connection.'), 'gone'],
  ['its disk is full', fault('ER_DISK_FULL', 'x', { sqlState: 'HY000' }), 'full'],
  [
    'its disk is full, in the words of the system',
    fault('ER_GET_ERRNO', 'Got error 28 "No space left on device"', { sqlState: 'HY000' }),
    'full',
  ],
  ['it does not take the data', fault('ER_DATA_TOO_LONG', 'x', { sqlState: '22001' }), 'refused'],
  ['it is a fault of ours', new TypeError('undefined is not a function'), undefined],
  ['it is no error at all', 'broken', undefined],
])('%s', (_, error, trouble) => expect(databaseTrouble(error)).toBe(trouble));

test('a full disk is told as that, though the connection broke over it too', () => {
  expect(databaseTrouble(fault('ECONNRESET', 'write ENOSPC'))).toBe('full');
});
