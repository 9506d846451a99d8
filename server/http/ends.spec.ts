import { spawn, type ChildProcess } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { connect } from 'node:net';
import { kill, startServer, until } from '../testing/process';
import { World } from '../testing/world';

const endOf = (child: ChildProcess) => new Promise<number | null>((resolve) => child.once('exit', resolve));

/** Throws where nobody catches it, when the process is told to. */
const THROWS = 'process.on("SIGUSR2",()=>{throw new Error("nobody")})';

describe('the end of a server', () => {
  let world: World;
  beforeAll(async () => (world = await World.make()));
  afterAll(() => world.end());

  it('does not wait for a request that never comes to its end', async () => {
    const { child, address } = await startServer(world.url, { STOP_SECONDS: '0.5' });
    const { hostname, port } = new URL(address);
    const socket = connect(Number(port), hostname);
    const closed = new Promise((resolve) => socket.once('close', resolve));
    socket.on('error', () => undefined);
    socket.write(
      'POST /api/sign-in HTTP/1.1\r\nHost: x\r\nContent-Type: application/json\r\nContent-Length: 90\r\n\r\n{"',
    );
    // Its beginning has been read once another is answered.
    expect((await fetch(`${address}/healthz`)).status).toBe(200);
    const ended = endOf(child);
    child.kill('SIGTERM');
    expect(await ended).toBe(0);
    await closed;
  });

  it('comes where an error was caught by nobody, after what runs is finished', async () => {
    const NODE_OPTIONS = `--import=data:text/javascript,${encodeURIComponent(THROWS)}`;
    const { child, address } = await startServer(world.url, { LOG_LEVEL: 'silent', NODE_OPTIONS });
    const { database } = world.serving;
    const signIn = () =>
      fetch(`${address}/api/sign-in`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ signIn: 'farida', password: 'ledger-lime' }),
      });
    // One request waits for a row that is held here, while the error comes.
    const ended = endOf(child);
    const running = await database.transaction(async (tx) => {
      await tx.rows('SELECT id FROM person FOR UPDATE');
      const answer = signIn();
      await until('a sign-in to wait', async () => {
        const rows = await database.rows<{ waits: number }>(
          "SELECT COUNT(*) AS waits FROM information_schema.processlist WHERE info LIKE 'INSERT INTO session%'",
        );
        return rows[0]!.waits > 0;
      });
      child.kill('SIGUSR2');
      return { answer };
    });
    expect((await running.answer).status).toBe(200);
    expect(await ended).toBe(1);
  });

  it('is followed by another one, at the same address, until it is told to stop', async () => {
    const script = `
      import { keepServing } from './tools/lib/keep-serving.mjs';
      const serving = await keepServing(process.env);
      console.log(serving.address);
      process.once('SIGTERM', () => serving.stop().then(() => process.exit(0)));`;
    const [, port] = /:(\d+)$/.exec((await startAndStop()).address)!;
    const env = { ...process.env, DATABASE_URL: world.url, PORT: port, LOG_LEVEL: 'silent', JOBS: 'no' };
    const keeper = spawn(process.execPath, ['--input-type=module', '-e', script], {
      env,
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    let said = '';
    keeper.stdout.on('data', (part: Buffer) => (said += part.toString()));
    await until('the server to be there', () => said.includes(`:${port}`));
    const serverOf = () =>
      Number(readFileSync(`/proc/${keeper.pid}/task/${keeper.pid}/children`, 'utf8').split(' ')[0]);
    const first = serverOf();
    process.kill(first, 'SIGKILL');
    const answers = () =>
      fetch(`http://127.0.0.1:${port}/readyz`).then(
        ({ status }) => status === 200,
        () => false,
      );
    await until('another one to answer', async () => serverOf() !== first && (await answers()));
    const ended = endOf(keeper);
    keeper.kill('SIGTERM');
    expect(await ended).toBe(0);
    expect(await answers()).toBe(false);
  });

  /** A server that was there for a moment: its address is free again. */
  async function startAndStop() {
    const started = await startServer(world.url);
    await kill(started.child);
    return started;
  }

  it('is before its beginning where the database is older or newer than the program, and it is not ready', async () => {
    const { database } = world.serving;
    const ready = async () => {
      const answer = await fetch(`${world.serving.address}/readyz`);
      return [answer.status, ((await answer.json()) as { status: string }).status];
    };
    expect(await ready()).toEqual([200, 'ready']);
    const [last] = await database.rows<{ name: string; hash: string }>(
      'SELECT name, hash FROM migration ORDER BY name DESC LIMIT 1',
    );
    await database.run("INSERT INTO migration (name, hash) VALUES ('9999_of_tomorrow.sql', '')");
    expect(await ready()).toEqual([503, expect.stringContaining('newer than this program')]);
    await expect(startServer(world.url)).rejects.toThrow('the server ended with 1');
    await database.run("DELETE FROM migration WHERE name IN ('9999_of_tomorrow.sql', ?)", [last!.name]);
    expect(await ready()).toEqual([503, expect.stringContaining('older than this program')]);
    await expect(startServer(world.url)).rejects.toThrow('the server ended with 1');
    await database.run('INSERT INTO migration (name, hash) VALUES (?, ?)', [last!.name, last!.hash]);
    expect(await ready()).toEqual([200, 'ready']);
  });
});
