import { connect } from './db';
import { errorOut } from './log';

describe('the log', () => {
  it('keeps of an error of the database its code and the key, never what was asked or kept', async () => {
    const database = connect(process.env['TEST_DATABASE_URL']!, 1);
    const error = await database
      .transaction(async (tx) => {
        await tx.run('CREATE OR REPLACE TEMPORARY TABLE secret_names (name VARCHAR(40), UNIQUE KEY one_name (name))');
        await tx.run('INSERT INTO secret_names VALUES (?)', ['Meranti Grand']);
        await tx.run('INSERT INTO secret_names VALUES (?)', ['Meranti Grand']);
      })
      .catch((thrown: unknown) => thrown);
    await database.close();
    const kept = errorOut(error);
    expect(kept).toMatchObject({ code: 'ER_DUP_ENTRY', errno: 1062, key: 'one_name' });
    expect(JSON.stringify(kept)).not.toContain('Meranti');
  });

  it('keeps any other error with its sentence', () => {
    expect(errorOut(new TypeError('no such thing'))).toMatchObject({ type: 'TypeError', message: 'no such thing' });
  });
});
