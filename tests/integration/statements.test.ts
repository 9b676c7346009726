import { connect } from '../../src/db/connect';
import { databaseTrouble } from '../../src/db/trouble';

const url = process.env['DATABASE_URL'] ?? '';

test('a statement that runs away is ended by the server, and whoever asked may come again', async () => {
  const knex = connect(url, { statementSeconds: 1 });
  try {
    const started = performance.now();
    // As long as it takes: every pair of everything that there is.
    const runaway =
      'SELECT COUNT(*) FROM information_schema.columns a, information_schema.columns b, information_schema.columns c';
    const error = await knex.raw(runaway).then(
      () => 'it was counted',
      (failed: unknown) => failed,
    );
    expect([databaseTrouble(error), performance.now() - started < 8_000]).toEqual(['gone', true]);
    expect((await knex.raw('SELECT 1 AS one'))[0]).toEqual([{ one: 1 }]);
  } finally {
    await knex.destroy();
  }
});

test('changes of tables have no such limit', async () => {
  const knex = connect(url);
  try {
    const [[{ seconds }]] = (await knex.raw('SELECT @@max_statement_time AS seconds')) as [[{ seconds: number }]];
    expect(seconds).toBe(0);
  } finally {
    await knex.destroy();
  }
});
