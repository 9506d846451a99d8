// npm run cluster -- [--seconds 8] [--kills 0]
// Three database nodes and two servers behind a proxy, on loopback, under acts that are each sent twice: a node, a
// server and the node that took the last write are killed and come back. With --kills N, so many more, drawn by chance;
// interrupted, it kills no more and judges what was done until then.
import { execFile, fork, spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { existsSync } from 'node:fs';
import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs, promisify } from 'node:util';
import { chanceOf } from '@core/kernel';
import { connect, MIGRATIONS } from '../../server/db';
import { migrate } from '../../server/db/migrate';
import { Actor } from '../../server/sample/actor';
import { layMasters, type Masters } from '../../server/sample/masters';
import { PEOPLE } from '../../server/sample/people';
import { fixedTerm, PLAIN_HEAD } from '../../server/sample/terms';
import { verify } from '../../server/verify';
import { Load, signIn } from './load';
import { Node, PROVIDER, SCRIPTS } from './nodes';

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const seconds = (ms: number) => `${(ms / 1000).toFixed(1)} s`;
const WORK_DATE = '2027-03-01';
/** What the agreement everybody draws from allows in all. */
const SCARCE = 200;

/** A server with the nodes in its own order. */
class Server {
  private child: ChildProcess | null = null;
  constructor(
    readonly name: string,
    private readonly port: number,
    private readonly url: string,
  ) {}

  async start(): Promise<void> {
    for (;;) {
      this.child = fork('dist/server/main.js', [], {
        env: {
          ...process.env,
          DATABASE_URL: this.url,
          PORT: String(this.port),
          LOG_LEVEL: 'error',
          TRUSTED_PROXIES: 'loopback',
          AT_ONCE_EACH: '1000',
          VERIFY_HOURS: '0',
        },
        execArgv: [],
        stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
      });
      const begun = await Promise.race([once(this.child, 'message'), once(this.child, 'exit').then(() => null)]);
      if (begun) return;
      await pause(200);
    }
  }

  async kill(signal: NodeJS.Signals = 'SIGKILL'): Promise<void> {
    if (!this.child || this.child.exitCode !== null || this.child.signalCode !== null) return;
    const gone = once(this.child, 'exit');
    this.child.kill(signal);
    await gone;
  }
}

async function proxy(folder: string, port: number, ports: readonly number[]): Promise<ChildProcess> {
  await mkdir(folder, { recursive: true });
  const file = join(folder, 'nginx.conf');
  await writeFile(
    file,
    `daemon off; worker_processes 1; pid ${folder}/nginx.pid; error_log ${folder}/error.log crit;
events { worker_connections 512; }
http {
  access_log off;
  client_body_temp_path ${folder}/body; proxy_temp_path ${folder}/proxy; fastcgi_temp_path ${folder}/f;
  uwsgi_temp_path ${folder}/u; scgi_temp_path ${folder}/s;
  upstream servers {
    ${ports.map((each) => `server 127.0.0.1:${each} max_fails=1 fail_timeout=1s;`).join(' ')}
    keepalive 32;
  }
  server {
    listen 127.0.0.1:${port};
    location / {
      proxy_pass http://servers;
      proxy_http_version 1.1;
      proxy_set_header Connection "";
      proxy_set_header Host $host;
      proxy_set_header X-Forwarded-For $proxy_add_x_forwarded_for;
      proxy_connect_timeout 2s;
      # An act has a key of its own: asked of another server it is done once all the same.
      proxy_next_upstream error timeout http_503 non_idempotent;
    }
  }
}
`,
  );
  return spawn('nginx', ['-p', folder, '-c', file], { stdio: 'ignore' });
}

/** The scripts of the server package, without the package: it would begin a database of its own. */
async function unpackScripts(): Promise<void> {
  await mkdir(SCRIPTS, { recursive: true });
  const run = promisify(execFile);
  await run('apt-get', ['download', 'mariadb-server'], { cwd: SCRIPTS });
  await run('sh', ['-c', 'dpkg-deb -x mariadb-server_*.deb . && rm mariadb-server_*.deb'], { cwd: SCRIPTS });
}

/** Agreements to release from: several that never end, and one that everybody draws from until it is used up. */
async function agreements(url: string, masters: Masters) {
  const database = connect(url, 2);
  const actor = new Actor(database, masters.companyId, masters.people.get('salmah')!, 'cluster');
  const customer = masters.customers.get('Teratai Bay Resort')!;
  const made = [];
  for (const committed of ['1000000', '1000000', '1000000', '1000000', String(SCARCE)]) {
    const [id] = await actor.does(
      'saveAgreement',
      {
        ...PLAIN_HEAD,
        customerId: customer.id,
        title: 'Cluster',
        firstDay: '2027-01-01',
        lastDay: '2027-12-31',
        lines: [fixedTerm(masters.items.get('RO-4040')!.id, committed, '740')],
      },
      WORK_DATE,
    );
    await actor.does('putInForce', { id, version: 1 }, WORK_DATE);
    const [line] = await database.rows<{ id: number }>('SELECT id FROM agreement_line WHERE agreement_id = ?', [id!]);
    made.push({ agreementId: id!, agreementLineId: line!.id });
  }
  await database.close();
  return made.map(({ agreementId, agreementLineId }) => ({
    agreementId,
    shipToId: customer.shipTos[0],
    customerReference: 'CLUSTER',
    lines: [{ agreementLineId, quantity: '1', shipDate: '2027-03-12' }],
  }));
}

async function main(): Promise<void> {
  const { values } = parseArgs({
    options: {
      seconds: { type: 'string', default: '8' },
      kills: { type: 'string', default: '0' },
      seed: { type: 'string', default: '7' },
    },
  });
  const each = Number(values.seconds) * 1000;
  const tools = (await import('../lib/install.mjs' as string)) as {
    ensurePrograms(...names: string[]): Promise<void>;
    installPackages(...names: string[]): Promise<void>;
  };
  await tools.ensurePrograms('mariadbd', 'mariadb-install-db', 'nginx');
  if (!existsSync(PROVIDER)) await tools.installPackages('galera-4', 'mariadb-backup', 'socat', 'lsof', 'iproute2');
  if (!existsSync(join(SCRIPTS, 'usr', 'bin', 'wsrep_sst_rsync'))) await unpackScripts();
  const { ensureServerBuilt } = (await import('../lib/build.mjs' as string)) as { ensureServerBuilt(): Promise<void> };
  await ensureServerBuilt();
  const { lay } = (await import('../lib/private-database.mjs' as string)) as {
    lay(folder: string, data: string): Promise<void>;
  };
  const folder = await mkdtemp(join(existsSync('/dev/shm') ? '/dev/shm' : tmpdir(), 'kampong-cluster-'));
  const nodes: Node[] = [];
  const servers: Server[] = [];
  let nginx: ChildProcess | null = null;
  try {
    for (const name of ['one', 'two', 'three']) nodes.push(await Node.make(name, join(folder, name), () => nodes));
    const [one, two, three] = nodes as [Node, Node, Node];
    await lay(one.folder, one.data);
    await one.start(true);
    await migrate(one.url(), MIGRATIONS);
    const laying = connect(one.url(), 2);
    const masters = await layMasters(laying);
    await laying.run('UPDATE company SET work_date = ?', [WORK_DATE]);
    await laying.close();
    const releases = await agreements(one.url(), masters);
    await one.stop();
    await two.copyOf(one);
    await three.copyOf(one);
    await one.start(true);

    const several = (order: readonly Node[]) =>
      one.url().replace(one.address, order.map(({ address }) => address).join(','));
    const base = 20_000 + Math.floor(Math.random() * 20_000);
    servers.push(
      new Server('A', base, several([one, two, three])),
      new Server('B', base + 1, several([two, three, one])),
    );
    const [a, b] = servers as [Server, Server];
    await a.start();
    nginx = await proxy(join(folder, 'nginx'), base + 2, [base, base + 1]);
    await pause(500);
    const me = PEOPLE[0];
    const session = await signIn(`http://127.0.0.1:${base + 2}`, me.signIn, me.password);
    // One in five draws from the scarce one.
    const load = new Load(session, (client, turn) => releases[(client + turn) % releases.length]);
    load.begin(8);
    const begun = performance.now();
    const phase = async (what: string, work: () => Promise<void>): Promise<void> => {
      const from = performance.now();
      await work();
      await pause(Math.max(0, each - (performance.now() - from)));
      const to = performance.now();
      console.log(
        `${seconds(from - begun).padStart(7)} ${what.padEnd(52)} ${load.rate(from, to).toFixed(0).padStart(4)} acts/s, longest pause ${seconds(load.longestPause(from, to))}`,
      );
    };
    await phase('one node, one server', async () => {});
    await phase('two nodes more join, and a server', async () => {
      await two.start();
      await three.start();
      await b.start();
    });
    await phase('three nodes, two servers', async () => {});
    await phase('a node is killed', () => three.kill());
    await phase('a server is killed', () => a.kill());
    await phase('the node comes back', () => three.start());
    // The server that is left writes to two.
    await phase('the node that took the last write is killed', () => two.kill());
    await phase('both come back', async () => {
      await two.start();
      await a.start();
    });
    const chance = chanceOf(Number(values.seed));
    const kills = Number(values.kills);
    const killed = { node: 0, server: 0 };
    let enough = false;
    process.once('SIGINT', () => (enough = true));
    for (let count = 0; count < kills && !enough; count += 1) {
      await pause(chance.whole(100, 800));
      if (chance.next() < 0.5) {
        const node = chance.pick(nodes);
        await node.kill();
        await pause(chance.whole(0, 1500));
        await node.start();
        killed.node += 1;
      } else {
        const server = chance.pick(servers);
        await server.kill();
        await pause(chance.whole(0, 1500));
        await server.start();
        killed.server += 1;
      }
      if ((count + 1) % 25 === 0) console.log(`${count + 1} kills, ${load.accepted.length} acts accepted`);
    }
    await load.end();
    const ended = performance.now();
    await pause(1000);
    console.log(`longest pause of all: ${seconds(load.longestPause(begun, ended))}`);
    if (kills > 0)
      console.log(`${killed.node} kills of nodes and ${killed.server} of servers besides, seed ${values.seed}`);
    await judge(nodes, load, begun);
  } finally {
    await Promise.all(servers.map((server) => server.kill('SIGTERM')));
    nginx?.kill('SIGTERM');
    await Promise.all(nodes.map((node) => node.stop()));
    await rm(folder, { recursive: true, force: true });
  }
}

/** No accepted act lost, none done twice, the limit held, and nothing differs, at every node. */
async function judge(nodes: readonly Node[], { accepted, refused }: Load, begun: number): Promise<void> {
  const wrong: string[] = [];
  for (const node of nodes) {
    const database = connect(node.url(), 2);
    const orders = new Set(
      (await database.rows<{ id: number }>("SELECT id FROM sales_order WHERE customer_reference = 'CLUSTER'")).map(
        ({ id }) => id,
      ),
    );
    const lost = accepted.filter(({ order }) => !orders.has(order));
    const named = new Set(accepted.map(({ order }) => order));
    for (const { key, order, at } of lost) {
      const keys = await database.rows('SELECT answer FROM act_key WHERE idempotency_key = ?', [key]);
      wrong.push(`${node.name}: lost ${order}, accepted at ${seconds(at - begun)}, kept as ${JSON.stringify(keys)}`);
    }
    if (named.size !== accepted.length) wrong.push(`${node.name}: two acts made one order`);
    if (orders.size !== accepted.length) wrong.push(`${node.name}: ${orders.size} orders of ${accepted.length} acts`);
    const [scarce] = await database.rows<{ released: string }>(
      'SELECT released FROM agreement_line WHERE committed = ?',
      [SCARCE],
    );
    if (Number(scarce!.released) > SCARCE) wrong.push(`${node.name}: ${scarce!.released} of ${SCARCE} are released`);
    wrong.push(...(await verify(database)).map((difference) => `${node.name}: ${difference}`));
    await database.close();
  }
  console.log(`${accepted.length} acts accepted, each sent twice; ${refused} refused by the limit of ${SCARCE}`);
  for (const sentence of wrong) console.error(sentence);
  console.log(wrong.length === 0 ? 'None lost, none double, limits held, 0 differences at each node.' : 'NOT RIGHT.');
  process.exitCode = wrong.length === 0 ? 0 : 1;
}

main().then(
  () => process.exit(),
  (error: Error) => {
    console.error(error.stack);
    process.exit(2);
  },
);
