import { execFile, spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { existsSync } from 'node:fs';
import { mkdtemp, readdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { PEOPLE } from '../server/sample/people';
import { fixedTerm, PLAIN_HEAD } from '../server/sample/terms';
import { connect } from '../server/db';
import { migrate } from '../server/db/migrate';
import { layMasters } from '../server/sample/masters';
import { startServer } from '../server/testing/process';
import { Visitor } from '../server/testing/world';
import { verify } from '../server/verify';

const run = (...args: string[]) => promisify(execFile)(process.execPath, args);

/** A private database in that folder, held by a process of its own. */
async function hold(folder: string): Promise<{ url: string; end(): Promise<void> }> {
  const child: ChildProcess = spawn(process.execPath, ['tools/lib/hold-database.mjs', folder], {
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const [line] = (await once(child.stdout!, 'data')) as [Buffer];
  return {
    url: String(line).trim(),
    async end() {
      const gone = once(child, 'exit');
      child.kill('SIGTERM');
      await gone;
    },
  };
}

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

describe('copies of the database', () => {
  let folder: string;
  beforeAll(async () => {
    folder = await mkdtemp(join(existsSync('/dev/shm') ? '/dev/shm' : tmpdir(), 'kampong-backup-'));
  });
  afterAll(() => rm(folder, { recursive: true, force: true }));

  it('are made while people work, and bring back every act that was accepted up to a moment, and none after it', async () => {
    const [data, to, back, all] = ['data', 'copies', 'back', 'all'].map((name) => join(folder, name)) as [
      string,
      string,
      string,
      string,
    ];
    const held = await hold(data);
    await migrate(held.url, 'server/db/sql');
    const database = connect(held.url, 4);
    const masters = await layMasters(database);
    await database.run("UPDATE company SET work_date = '2027-03-01'");
    const { child, address } = await startServer(held.url);
    const salmah = new Visitor(address);
    await salmah.signIn(PEOPLE[0].signIn, PEOPLE[0].password);
    const teratai = masters.customers.get('Teratai Bay Resort')!;
    const [agreement] = await salmah.does('saveAgreement', {
      ...PLAIN_HEAD,
      customerId: teratai.id,
      title: 'Membranes',
      firstDay: '2027-01-01',
      lastDay: '2027-12-31',
      signedOn: '2026-12-20',
      lines: [fixedTerm(masters.items.get('RO-4040')!.id, '100000', '740')],
    });
    await salmah.does('putInForce', { id: agreement!.id, version: 1 });
    const { lines } = await salmah.get<{ lines: { id: number }[] }>(`/api/agreements/${agreement!.id}`);
    const release = {
      agreementId: agreement!.id,
      shipToId: teratai.shipTos[0],
      customerReference: 'TBR',
      lines: [{ agreementLineId: lines[0]!.id, quantity: '1', shipDate: '2027-03-12' }],
    };
    const accepted: { key: string; begun: number; done: number }[] = [];
    let working = true;
    const works = async (client: number) => {
      for (let turn = 0; working; turn += 1) {
        const key = `copy-${client}-${turn}`;
        const begun = Date.now();
        const { status } = await salmah.raw('releaseAgreement', release, key);
        expect(status).toBe(200);
        accepted.push({ key, begun, done: Date.now() });
        await pause(20);
      }
    };
    const clients = [1, 2, 3].map(works);
    await run('tools/backup.mjs', '--data', data, '--to', to);
    const copied = accepted.length;
    await pause(1500);
    const until = new Date();
    until.setMilliseconds(0);
    await pause(2500);
    working = false;
    await Promise.all(clients);
    child.kill('SIGTERM');
    await once(child, 'exit');
    // The next copy keeps what was changed since the one before.
    await pause(1100);
    await run('tools/backup.mjs', '--data', data, '--to', to);
    const told = await database.rows<{ well: boolean; found: string }>(
      "SELECT well, found FROM job_result WHERE job = 'backup'",
    );
    expect(told.map(({ well }) => well)).toEqual([true, true]);
    expect(told[0]!.found).toContain(to);
    await database.close();
    await held.end();

    const [first] = (await readdir(to)).sort();
    await run('tools/restore.mjs', '--from', join(to, first!), '--data', back, '--until', until.toISOString());
    const restored = await hold(back);
    const brought = connect(restored.url, 2);
    const keys = new Set(
      (await brought.rows<{ idempotencyKey: string }>('SELECT idempotency_key FROM act_key')).map(
        ({ idempotencyKey }) => idempotencyKey,
      ),
    );
    const before = accepted.filter(({ done }) => done < until.getTime());
    const after = accepted.filter(({ begun }) => begun > until.getTime() + 1000);
    expect(before.length).toBeGreaterThan(copied);
    expect(after.length).toBeGreaterThan(0);
    expect(before.filter(({ key }) => !keys.has(key))).toEqual([]);
    expect(after.filter(({ key }) => keys.has(key))).toEqual([]);
    expect(await verify(brought)).toEqual([]);
    await brought.close();
    await restored.end();

    // All that was kept: no act is lost.
    await run('tools/restore.mjs', '--from', join(to, first!), '--data', all);
    const whole = await hold(all);
    const everything = connect(whole.url, 2);
    const [count] = await everything.rows<{ count: number }>(
      "SELECT COUNT(*) AS count FROM act_key WHERE idempotency_key LIKE 'copy-%'",
    );
    expect(count!.count).toBe(accepted.length);
    expect(await verify(everything)).toEqual([]);
    await everything.close();
    await whole.end();

    await expect(run('tools/restore.mjs', '--from', to, '--data', all)).rejects.toThrow('is not empty');
  }, 240_000);

  it('are refused in words where there is nothing to copy or to bring back', async () => {
    await expect(run('tools/restore.mjs', '--from', folder, '--data', join(folder, 'none'))).rejects.toThrow(
      'There is no whole copy',
    );
    await expect(run('tools/restore.mjs', '--from', folder)).rejects.toThrow('Name an empty folder');
  });
});
