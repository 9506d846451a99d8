import { fork, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { Agent, request } from 'node:http';
import { createConnection } from 'mysql2/promise';
import { addDays } from '@core/kernel';
import { Actor, fixedTerm, PLAIN_HEAD } from '../demo';
import { layMasters, type Masters } from '../server/sample/masters';
import { PEOPLE } from '../server/sample/people';
import { connect, type Database } from '../server/db';
import { migrate } from '../server/db/migrate';

export const WORK_DATE = '2027-03-01';

/** The built server on a database of its own, and a signed-in client that speaks HTTP to it. */
export class Stage {
  private cookie = '';
  private token = '';
  private readonly agent = new Agent({ keepAlive: true, maxSockets: 32 });
  private constructor(
    readonly url: string,
    readonly database: Database,
    readonly masters: Masters,
    readonly actor: Actor,
    private readonly child: ChildProcess,
    readonly address: URL,
  ) {}

  /** A stage with the masters and whatever `lay` adds to them before the server starts. */
  static async make(root: string, lay?: (url: string, companyId: number) => Promise<void>): Promise<Stage> {
    const admin = await createConnection(root);
    const name = `b_${randomUUID().replaceAll('-', '').slice(0, 12)}`;
    await admin.query(`CREATE DATABASE ${name}`);
    await admin.end();
    const url = new URL(root);
    url.pathname = `/${name}`;
    await migrate(url.href, 'server/db/sql');
    const database = connect(url.href, 17);
    const masters = await layMasters(database);
    await database.run('UPDATE company SET work_date = ?', [WORK_DATE]);
    await lay?.(url.href, masters.companyId);
    const actor = new Actor(database, masters.companyId, masters.people.get('salmah')!, 'bench');
    const { child, address } = await startServer(url.href);
    const stage = new Stage(url.href, database, masters, actor, child, new URL(address));
    await stage.signIn();
    return stage;
  }

  /** The server's process. */
  get pid(): number {
    return this.child.pid!;
  }

  private async signIn(): Promise<void> {
    const { signIn, password } = PEOPLE[0];
    const answer = await this.post('/api/sign-in', { signIn, password });
    this.token = (answer as { token: string }).token;
  }

  /** A post that must succeed. */
  post(path: string, body: unknown): Promise<unknown> {
    return this.send('POST', path, JSON.stringify(body));
  }

  /** A read that must succeed. */
  get(path: string): Promise<unknown> {
    return this.send('GET', path, '');
  }

  private send(method: 'GET' | 'POST', path: string, text: string): Promise<unknown> {
    return new Promise((resolve, reject) => {
      const written = {
        'Content-Type': 'application/json',
        'Content-Length': Buffer.byteLength(text),
        'Idempotency-Key': randomUUID(),
        'X-Kampong-Token': this.token,
      };
      const sent = request(
        {
          host: this.address.hostname,
          port: this.address.port,
          path,
          method,
          agent: this.agent,
          headers: { cookie: this.cookie, ...(method === 'POST' ? written : {}) },
        },
        (answer) => {
          const set = answer.headers['set-cookie'];
          if (set) this.cookie = set[0]!.split(';')[0]!;
          let received = '';
          answer.setEncoding('utf8');
          answer.on('data', (chunk: string) => (received += chunk));
          answer.on('end', () =>
            answer.statusCode === 200 ? resolve(JSON.parse(received)) : reject(new Error(received)),
          );
        },
      );
      sent.on('error', reject);
      sent.end(text);
    });
  }

  /** An agreement in force over membranes; its id and its lines'. */
  async agreement(items: readonly string[], committed: string): Promise<{ id: number; lineIds: number[] }> {
    const [id] = await this.actor.does(
      'saveAgreement',
      {
        ...PLAIN_HEAD,
        customerId: this.masters.customers.get('Teratai Bay Resort')!.id,
        title: 'Bench',
        firstDay: addDays(WORK_DATE, -30),
        lastDay: addDays(WORK_DATE, 300),
        lines: items.map((item) => fixedTerm(this.masters.items.get(item)!.id, committed, '740')),
      },
      WORK_DATE,
    );
    await this.actor.does('putInForce', { id, version: 1 }, WORK_DATE);
    const lines = await this.database.rows<{ id: number }>(
      'SELECT id FROM agreement_line WHERE agreement_id = ? ORDER BY line_no',
      [id!],
    );
    return { id: id!, lineIds: lines.map((line) => line.id) };
  }

  releaseOf(agreement: { id: number; lineIds: number[] }, quantity: string) {
    return {
      agreementId: agreement.id,
      shipToId: this.masters.customers.get('Teratai Bay Resort')!.shipTos[0],
      customerReference: 'BENCH',
      lines: agreement.lineIds.map((agreementLineId) => ({
        agreementLineId,
        quantity,
        shipDate: addDays(WORK_DATE, 10),
      })),
    };
  }

  async end(): Promise<void> {
    this.agent.destroy();
    this.child.kill('SIGTERM');
    await this.database.close();
  }
}

function startServer(url: string): Promise<{ child: ChildProcess; address: string }> {
  return new Promise((resolve, reject) => {
    const child = fork('dist/server/main.js', [], {
      env: {
        ...process.env,
        DATABASE_URL: url,
        PORT: '0',
        LOG_LEVEL: 'error',
        DATABASE_CONNECTIONS: '16',
        JOBS: 'no',
        AT_ONCE_EACH: '1000',
      },
      stdio: 'inherit',
    });
    child.once('message', (message) => resolve({ child, ...(message as { address: string }) }));
    child.once('exit', (code) => reject(new Error(`the server ended with ${code}`)));
  });
}
