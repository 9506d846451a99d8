import { randomUUID } from 'node:crypto';
import type { PoolConnection } from 'mysql2';
import { connect, type Database, type Sql } from './database';
import { LAST_ID } from './piece';
import { into, newId } from './statement';
import { table } from './table';

/** The driver's door, on the tests' own database: temporary tables of one connection only. */
describe('the database', () => {
  let database: Database;
  beforeAll(() => (database = connect(process.env['TEST_DATABASE_URL']!, 1)));
  afterAll(() => database.close());

  it('names columns as the code does, and gives decimals as their shortest text, booleans as booleans, days as days', async () => {
    await database.run(
      'CREATE OR REPLACE TEMPORARY TABLE door (id INT AUTO_INCREMENT PRIMARY KEY, unit_price DECIMAL(19,5), on_bench BOOLEAN, due_date DATE, small TINYINT)',
    );
    await database.run(
      'INSERT INTO door (unit_price, on_bench, due_date, small) VALUES (?, ?, ?, 1), (?, NULL, NULL, 0)',
      ['12.50000', true, '2027-03-01', '-0.00000'],
    );
    expect(await database.rows('SELECT * FROM door ORDER BY id')).toEqual([
      { id: 1, unitPrice: '12.5', onBench: true, dueDate: '2027-03-01', small: 1 },
      { id: 2, unitPrice: '0', onBench: null, dueDate: null, small: 0 },
    ]);
    expect(await database.rows('SELECT SUM(unit_price) AS sum, 2 AS line_no FROM door')).toEqual([
      { sum: '12.5', lineNo: 2 },
    ]);
  });

  it('has nothing in an empty list, and everything outside it', async () => {
    const count = (where: string, values: number[]) =>
      database.rows(`SELECT COUNT(*) AS n FROM (SELECT 1 AS id UNION SELECT 2) x WHERE id ${where} (?)`, [values]);
    expect(await count('IN', [])).toEqual([{ n: 0 }]);
    expect(await count('NOT IN', [])).toEqual([{ n: 2 }]);
    expect(await count('IN', [2])).toEqual([{ n: 1 }]);
  });

  it('sends several statements in one trip and gives the rows of those that have some', async () => {
    const answers = await database.batch([
      { sql: 'SET @kept = ?', values: [7] },
      { sql: 'SELECT @kept + ? AS sum_of', values: [1], rows: true },
      { sql: 'SELECT 1 AS one WHERE FALSE', values: [], rows: true },
    ]);
    expect(answers).toEqual([[], [{ sumOf: 8 }], []]);
    expect(await database.batch([])).toEqual([]);
  });

  it('sends what is asked at once within a transaction in one trip, in that order, and fails all of it as one', async () => {
    const connection = await new Promise<PoolConnection>((resolve, reject) =>
      database.getConnection((error, taken) => (taken ? resolve(taken) : reject(error as Error))),
    );
    const trips = jest.spyOn(Object.getPrototypeOf(connection) as PoolConnection, 'query');
    connection.release();
    try {
      const answers = await database.transaction(async (tx) => {
        const one = await Promise.all([
          tx.run('SET @asked = ?', ['a?b']),
          tx.rows('SELECT @asked AS asked, ? AS more', ['?']),
          tx.batch([
            { sql: 'SET @asked = 2', values: [] },
            { sql: 'SELECT 1 AS one WHERE 7 IN (?)', values: [[]], rows: true },
          ]),
          tx.rows('SELECT @asked AS asked'),
        ]);
        expect(trips).toHaveBeenCalledTimes(1);
        await expect(
          Promise.allSettled([tx.rows('SELECT 1 AS one'), tx.rows('SELECT nothing')]),
        ).resolves.toMatchObject([{ status: 'rejected' }, { status: 'rejected' }]);
        return one;
      });
      expect(answers).toEqual([0, [{ asked: 'a?b', more: '?' }], [[], []], [{ asked: 2 }]]);
    } finally {
      trips.mockRestore();
    }
  });

  it('begins again where somebody was faster, a few times at most, and waits for a lock in vain only twice', async () => {
    const triesOf = async (errno: number) => {
      let last = 0;
      const work = database.transaction((_, tries) => {
        last = tries;
        return Promise.reject(Object.assign(new Error('no'), { errno }));
      });
      await expect(work).rejects.toThrow('no');
      return last;
    };
    expect([await triesOf(1213), await triesOf(1062), await triesOf(1205), await triesOf(4025)]).toEqual([6, 3, 2, 1]);
    const answer = await database.transaction((_, tries) =>
      tries < 3 ? Promise.reject(Object.assign(new Error('no'), { errno: 1213 })) : Promise.resolve(tries),
    );
    expect(answer).toBe(3);
  });

  it('shows one moment to all reads of a snapshot, which locks and writes nothing', async () => {
    const other = connect(process.env['TEST_DATABASE_URL']!, 1);
    const name = `moment_${randomUUID().slice(0, 8)}`;
    await other.run(`CREATE TABLE ${name} (id INT PRIMARY KEY, quantity INT NOT NULL)`);
    await other.run(`INSERT INTO ${name} VALUES (1, 5)`);
    const read = (sql: Sql) => sql.rows<{ quantity: number }>(`SELECT quantity FROM ${name} ${sql.forUpdate}`);
    await database.snapshot(async (sql) => {
      expect(await read(sql)).toEqual([{ quantity: 5 }]);
      await other.run(`UPDATE ${name} SET quantity = 6`);
      expect(await read(sql)).toEqual([{ quantity: 5 }]);
      await expect(sql.run(`UPDATE ${name} SET quantity = 7`)).rejects.toMatchObject({ errno: 1792 });
    });
    expect(await read(database)).toEqual([{ quantity: 6 }]);
    await database.transaction(async (tx) => {
      await read(tx);
      await other.run('SET SESSION innodb_lock_wait_timeout = 1');
      await expect(other.run(`UPDATE ${name} SET quantity = 8`)).rejects.toMatchObject({ errno: 1205 });
    });
    await other.run(`DROP TABLE ${name}`);
    await other.close();
  });

  it('takes back what a transaction wrote where it fails', async () => {
    await database.run('CREATE OR REPLACE TEMPORARY TABLE door_two (line_no INT PRIMARY KEY) ENGINE = InnoDB');
    const work = database.transaction(async (tx) => {
      await tx.insertPlain(table('door_two', { int: 'lineNo' }), [{ lineNo: 1 }]);
      throw new Error('no');
    });
    await expect(work).rejects.toThrow('no');
    expect(await database.rows('SELECT line_no FROM door_two')).toEqual([]);
  });

  describe('the last trip of a transaction', () => {
    const parents = table('door_parent', { int: 'id= lineNo' });
    const children = table('door_child', { int: 'parentId' });
    const rowsOf = () =>
      database.rows('SELECT c.parent_id, p.line_no FROM door_child c JOIN door_parent p ON p.id = c.parent_id');

    beforeEach(async () => {
      await database.run(
        'CREATE OR REPLACE TEMPORARY TABLE door_parent (id INT AUTO_INCREMENT PRIMARY KEY, line_no INT NOT NULL) ENGINE = InnoDB',
      );
      await database.run('CREATE OR REPLACE TEMPORARY TABLE door_child (parent_id INT PRIMARY KEY) ENGINE = InnoDB');
    });
    afterEach(() => database.run('SET SESSION auto_increment_increment = DEFAULT, auto_increment_offset = DEFAULT'));

    it.each([1, 3])('names the ids of rows before in rows after, where the server counts by %i', async (step) => {
      await database.run(`SET SESSION auto_increment_increment = ${step}, auto_increment_offset = ${step}`);
      const answer = await database.transaction((tx) =>
        tx.writeAndCommit(
          {
            statements: [],
            insertions: [
              into(parents, [{ lineNo: 10 }, { lineNo: 20 }, { lineNo: 30 }], { ids: true }),
              into(children, [{ parentId: newId(parents, 0) }, { parentId: newId(parents, 2) }]),
            ],
          },
          newId(parents, 1),
        ),
      );
      expect(answer).toBe(2 * step);
      expect(await rowsOf()).toEqual([
        { parentId: step, lineNo: 10 },
        { parentId: 3 * step, lineNo: 30 },
      ]);
    });

    it('takes all of itself back where its last statement fails, and leaves the connection to the next', async () => {
      const twice = [{ parentId: newId(parents, 0) }, { parentId: newId(parents, 0) }];
      let tries = 0;
      const work = database.transaction(async (tx, count) => {
        tries = count;
        await tx.insertPlain(children, [{ parentId: 77 }]);
        const insertions = [into(parents, [{ lineNo: 10 }], { ids: true }), into(children, twice)];
        return tx.writeAndCommit({ statements: [], insertions }, 'done');
      });
      await expect(work).rejects.toMatchObject({ errno: 1062 });
      expect(tries).toBe(3);
      expect(await database.rows('SELECT parent_id FROM door_child')).toEqual([]);
      expect(await database.rows('SELECT id FROM door_parent')).toEqual([]);
      await database.transaction((tx) => tx.insertPlain(children, [{ parentId: 5 }]));
      expect(await database.rows('SELECT parent_id FROM door_child')).toEqual([{ parentId: 5 }]);
    });

    it('stores each id in a row of its own right after it', async () => {
      await database.transaction((tx) =>
        tx.writeAndCommit(
          { statements: [], insertions: [into(parents, [{ lineNo: 10 }]), into(children, [{ parentId: LAST_ID }])] },
          '',
        ),
      );
      expect(await rowsOf()).toEqual([{ parentId: 1, lineNo: 10 }]);
    });
  });
});
