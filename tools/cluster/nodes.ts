import { execFile, spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { cp, mkdir, readFile, rm, writeFile } from 'node:fs/promises';
import { createServer } from 'node:net';
import { join, resolve } from 'node:path';
import { promisify } from 'node:util';
import { createConnection, type RowDataPacket } from 'mysql2/promise';

export const PROVIDER = '/usr/lib/galera/libgalera_smm.so';
const PASSWORD = 'cluster';
/** How a node hands all it has to one that has nothing: scripts of the distribution's server package, unpacked here. */
export const SCRIPTS = resolve('dist', 'cluster');
const ENV = { ...process.env, PATH: `${process.env['PATH']}:/usr/sbin:${join(SCRIPTS, 'usr', 'bin')}` };

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

function freePort(): Promise<number> {
  return new Promise((done, fail) => {
    const server = createServer();
    server.once('error', fail);
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address() as { port: number };
      server.close(() => done(port));
    });
  });
}

interface Ports {
  sql: number;
  group: number;
  /** Where a node that was away receives what it missed. */
  missed: number;
  whole: number;
}

/** One node of the database, on loopback, in a folder of its own. */
export class Node {
  private child: ChildProcess | null = null;
  private constructor(
    readonly name: string,
    readonly folder: string,
    readonly ports: Ports,
    private readonly all: () => readonly Node[],
  ) {}

  static async make(name: string, folder: string, all: () => readonly Node[]): Promise<Node> {
    await mkdir(folder, { recursive: true });
    const [sql, group, missed, whole] = [await freePort(), await freePort(), await freePort(), await freePort()];
    return new Node(name, folder, { sql, group, missed, whole }, all);
  }

  get data(): string {
    return join(this.folder, 'data');
  }

  get address(): string {
    return `127.0.0.1:${this.ports.sql}`;
  }

  url(database = 'kampong'): string {
    return `mysql://kampong:${PASSWORD}@${this.address}/${database}`;
  }

  private options(): string[] {
    const { sql, group, missed, whole } = this.ports;
    return [
      '--no-defaults',
      ...(process.getuid?.() === 0 ? ['--user=root'] : []),
      `--datadir=${this.data}`,
      `--socket=${join(this.folder, 'node.sock')}`,
      `--pid-file=${join(this.folder, 'node.pid')}`,
      `--log-error=${join(this.folder, 'error.log')}`,
      `--port=${sql}`,
      '--bind-address=127.0.0.1',
      '--skip-name-resolve',
      '--character-set-server=utf8mb4',
      '--collation-server=utf8mb4_unicode_ci',
      '--innodb-buffer-pool-size=256M',
      '--performance-schema=OFF',
      '--max-connections=200',
      '--innodb-flush-log-at-trx-commit=1',
      '--binlog-format=ROW',
      '--innodb-autoinc-lock-mode=2',
      '--wsrep-on=ON',
      `--wsrep-provider=${PROVIDER}`,
      '--wsrep-cluster-name=kampong',
      `--wsrep-node-name=${this.name}`,
      `--wsrep-node-address=127.0.0.1:${group}`,
      `--wsrep-provider-options=gmcast.listen_addr=tcp://127.0.0.1:${group};ist.recv_addr=127.0.0.1:${missed};gcache.size=512M;evs.keepalive_period=PT0.5S;evs.suspect_timeout=PT2S;evs.inactive_timeout=PT4S`,
      '--wsrep-sst-method=mariabackup',
      '--wsrep-sst-auth=root:',
      `--wsrep-sst-receive-address=127.0.0.1:${whole}`,
      '--wsrep-slave-threads=2',
      // Who reads at one node sees what was written at another.
      '--wsrep-sync-wait=1',
    ];
  }

  private others(): string {
    return `gcomm://${this.all()
      .map(({ ports }) => `127.0.0.1:${ports.group}`)
      .join(',')}`;
  }

  /** Starts it: the first of a cluster, or into the one that is there; done once it is in step. */
  async start(first = false): Promise<void> {
    const init = join(this.folder, 'init.sql');
    await writeFile(
      init,
      `CREATE DATABASE IF NOT EXISTS kampong;
CREATE USER IF NOT EXISTS kampong@'127.0.0.1' IDENTIFIED BY '${PASSWORD}';
GRANT ALL ON *.* TO kampong@'127.0.0.1';
`,
    );
    const position = await this.position();
    this.child = spawn(
      'mariadbd',
      [
        ...this.options(),
        ...(first ? [`--init-file=${init}`, '--wsrep-new-cluster'] : []),
        `--wsrep-cluster-address=${this.others()}`,
        ...(position ? [`--wsrep-start-position=${position}`] : []),
      ],
      { stdio: 'ignore', env: ENV },
    );
    for (let tries = 0; ; tries += 1) {
      if ((await this.state().catch(() => null))?.['wsrep_local_state'] === '4') return;
      if (this.child.exitCode !== null || tries > 900) {
        const log = await readFile(join(this.folder, 'error.log'), 'utf8').catch(() => '');
        throw new Error(`${this.name} did not come up:\n${log.split('\n').slice(-12).join('\n')}`);
      }
      await pause(100);
    }
  }

  /** Up to where a node that was killed has everything: it asks the others for what it missed, not for all there is. */
  private async position(): Promise<string | null> {
    const state = await readFile(join(this.data, 'grastate.dat'), 'utf8').catch(() => null);
    if (state === null || !/seqno:\s*-1/.test(state)) return null;
    const log = join(this.folder, 'recover.log');
    await rm(log, { force: true });
    await promisify(execFile)(
      'mariadbd',
      [
        ...this.options().filter((option) => !option.startsWith('--log-error')),
        `--log-error=${log}`,
        `--wsrep-cluster-address=${this.others()}`,
        '--wsrep-recover',
      ],
      { env: ENV },
    );
    return /Recovered position:\s*(\S+)/.exec(await readFile(log, 'utf8'))?.[1] ?? null;
  }

  /** What it says of the cluster: its own names of the figures. */
  async state(): Promise<Record<string, string>> {
    const connection = await createConnection({ uri: this.url(''), connectTimeout: 1000 });
    try {
      const [rows] = await connection.query<RowDataPacket[]>("SHOW STATUS LIKE 'wsrep_%'");
      return Object.fromEntries(rows.map((row) => [String(row['Variable_name']), String(row['Value'])]));
    } finally {
      connection.destroy();
    }
  }

  /** Ends it as a power cut would. */
  async kill(): Promise<void> {
    const gone = once(this.child!, 'exit');
    this.child!.kill('SIGKILL');
    await gone;
  }

  async stop(): Promise<void> {
    if (!this.child || this.child.exitCode !== null || this.child.signalCode !== null) return;
    const gone = once(this.child, 'exit');
    this.child.kill('SIGTERM');
    await gone;
  }

  /** The files of another that was stopped, as this one's own. */
  async copyOf(other: Node): Promise<void> {
    await cp(other.data, this.data, { recursive: true });
    await Promise.all(['galera.cache', 'gvwstate.dat'].map((name) => rm(join(this.data, name), { force: true })));
  }
}
