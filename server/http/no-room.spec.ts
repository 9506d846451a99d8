import Koa from 'koa';
import { once } from 'node:events';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { pino } from 'pino';
import { World } from '../testing/world';
import { errorExit } from './problem';

/** A table that can grow no more, as a full disk makes all of them. // G4 */
describe('a database without room to write', () => {
  let world: World;
  beforeAll(async () => {
    world = await World.make();
  });
  afterAll(() => world.end());

  it('is said as that, writes nothing of it, and goes on when there is some again', async () => {
    const { database } = world.serving;
    const app = new Koa();
    app.use(errorExit(pino({ level: 'silent' })));
    app.use(async (ctx) => {
      await database.transaction(async (tx) => {
        await tx.run("UPDATE company SET name = CONCAT(name, '.') WHERE id = ?", [world.masters.companyId]);
        await tx.run('CREATE OR REPLACE TEMPORARY TABLE narrow (what VARCHAR(8000)) ENGINE=MEMORY MAX_ROWS=2');
        await tx.run("INSERT INTO narrow SELECT REPEAT('x', 8000) FROM seq_1_to_?", [Number(ctx.query['rows'])]);
      });
      ctx.status = 204;
    });
    const server = createServer(app.callback()).listen(0, '127.0.0.1');
    await once(server, 'listening');
    const address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
    const nameOf = async () =>
      (await database.rows('SELECT name FROM company WHERE id = ?', [world.masters.companyId]))[0];
    const before = await nameOf();
    const refused = await fetch(`${address}/?rows=100000`);
    expect([refused.status, await refused.json()]).toMatchObject([503, { refusals: [{ code: 'no-room' }] }]);
    expect(await nameOf()).toEqual(before);
    expect((await fetch(`${address}/?rows=1`)).status).toBe(204);
    expect(await nameOf()).not.toEqual(before);
    server.close();
  });
});
