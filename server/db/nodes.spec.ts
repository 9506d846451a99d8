import { connect } from '.';
import { addressesOf } from './nodes';

describe('the nodes of a database', () => {
  beforeAll(async () => {
    const database = connect(process.env['TEST_DATABASE_URL']!, 1);
    await database.run('CREATE TABLE IF NOT EXISTS transaction_mark (token CHAR(16) PRIMARY KEY)');
    await database.close();
  });

  it('are named in one URL, the first used first', () => {
    expect(addressesOf('mysql://me:w@one:3306,two:3307/name')).toEqual([
      'mysql://me:w@one:3306/name',
      'mysql://me:w@two:3307/name',
    ]);
    expect(addressesOf('mariadb://one/name')).toEqual(['mysql://one/name']);
  });

  it('one that cannot be reached is left for the next, by every kind of work', async () => {
    const url = new URL(process.env['TEST_DATABASE_URL']!);
    const several = url.href.replace(url.host, `127.0.0.1:9,${url.host}`);
    const database = connect(several, 2);
    expect(await database.rows('SELECT 1 AS one')).toEqual([{ one: 1 }]);
    expect(await database.transaction((tx) => tx.rows('SELECT 2 AS two'))).toEqual([{ two: 2 }]);
    expect(await database.snapshot((sql) => sql.rows('SELECT 3 AS three'))).toEqual([{ three: 3 }]);
    const cells: unknown[] = [];
    await database.each('SELECT 4', [], (row) => cells.push(...row));
    expect(cells).toEqual([4]);
    expect(database.name).toBe(url.pathname.slice(1));
    await database.close();
  });

  it('where none can be reached it is said, and tried again by the next', async () => {
    const database = connect('mysql://me:w@127.0.0.1:9,127.0.0.1:10/name', 1);
    for (let turn = 0; turn < 3; turn += 1) {
      await expect(database.rows('SELECT 1')).rejects.toMatchObject({ code: 'ECONNREFUSED' });
    }
    await database.close();
  });

  it('a transaction undone behind its back is begun again: nothing of it is written on its own', async () => {
    const url = new URL(process.env['TEST_DATABASE_URL']!);
    const database = connect(url.href.replace(url.host, `${url.host},${url.host}`), 2);
    await database.run('CREATE OR REPLACE TABLE undone (turn INT NOT NULL)');
    await database.transaction(async (tx, tries) => {
      await tx.run('INSERT INTO undone VALUES (?)', [10 * tries]);
      // As a node does that gives way to another, between two statements of ours.
      if (tries === 1) await tx.run('ROLLBACK');
      await tx.run('INSERT INTO undone VALUES (?)', [10 * tries + 1]);
    });
    expect(await database.rows('SELECT turn FROM undone ORDER BY turn')).toEqual([{ turn: 20 }, { turn: 21 }]);
    await database.transaction(async (tx, tries) => {
      await tx.run('INSERT INTO undone VALUES (?)', [10 * tries + 20]);
      if (tries === 1) await tx.run('ROLLBACK');
    });
    expect(await database.rows('SELECT MAX(turn) AS turn FROM undone')).toEqual([{ turn: 40 }]);
    // The record of an act, in the trip of its commit.
    const last = (turn: number) => ({
      statements: [{ sql: 'INSERT INTO undone VALUES (?)', values: [turn] }],
      insertions: [],
    });
    await database.transaction(async (tx, tries) => {
      await tx.run('INSERT INTO undone VALUES (?)', [10 * tries + 40]);
      if (tries === 1) await tx.run('ROLLBACK');
      expect(await tx.writeAndCommit(last(10 * tries + 41), 'done')).toBe('done');
    });
    expect(await database.rows('SELECT turn FROM undone WHERE turn > 45 ORDER BY turn')).toEqual([
      { turn: 60 },
      { turn: 61 },
    ]);
    // What is not within a transaction is committed by itself again.
    expect(await database.rows('SELECT @@autocommit AS alone')).toEqual([{ alone: 1 }]);
    expect(await database.rows('SELECT token FROM transaction_mark')).toEqual([]);
    await database.run('DROP TABLE undone');
    await database.close();
  });
});
