import { connect } from '.';
import { addressesOf } from './nodes';

describe('the nodes of a database', () => {
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
});
