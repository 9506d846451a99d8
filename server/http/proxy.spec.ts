import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { request } from 'node:https';
import { createServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pino } from 'pino';
import { readConfig } from '../config';
import { serve, type Serving } from '../serve';
import { until } from '../testing/process';
import { agreed, World } from '../testing/world';

const freePort = () =>
  new Promise<number>((resolve) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address() as AddressInfo;
      server.close(() => resolve(port));
    });
  });

/** The example that ships, on ports and files of its own. */
const example = readFileSync('deploy/nginx.conf', 'utf8');

const nginxConf = (folder: string, port: number, upstream: string) => `
daemon off;
master_process off;
pid ${folder}/nginx.pid;
error_log ${folder}/error.log;
events {}
http {
  access_log off;
  client_body_temp_path ${folder}/body;
  proxy_temp_path ${folder}/proxy;
  fastcgi_temp_path ${folder}/fastcgi;
  uwsgi_temp_path ${folder}/uwsgi;
  scgi_temp_path ${folder}/scgi;
${example
  .replace(/^upstream kampong \{[^}]*\}/m, `upstream kampong { server ${upstream.replace('http://', '')}; }`)
  .replace('listen 443 ssl', `listen 127.0.0.1:${port} ssl`)
  .replace('/etc/ssl/orders.pem', `${folder}/cert.pem`)
  .replace('/etc/ssl/orders.key', `${folder}/key.pem`)
  .replaceAll('proxy_pass http://kampong;', 'proxy_pass http://kampong; proxy_bind 127.0.0.1;')}
}
`;

interface Heard {
  status: number;
  headers: Record<string, string | string[] | undefined>;
  text: string;
}

describe('behind a proxy that ends HTTPS', () => {
  const folder = mkdtempSync(join(tmpdir(), 'kampong-proxy-'));
  let world: World;
  let serving: Serving;
  let proxy: ChildProcess;
  let port: number;

  /** Asks the proxy from an address that is not its own. */
  const ask = (path: string, body?: unknown, headers: Record<string, string> = {}) =>
    new Promise<Heard>((resolve, reject) => {
      const asked = request(
        {
          host: '127.0.0.1',
          servername: 'localhost',
          port,
          path,
          method: body === undefined ? 'GET' : 'POST',
          localAddress: '127.0.0.9',
          ca: readFileSync(join(folder, 'cert.pem')),
          headers: { 'Content-Type': 'application/json', ...headers },
        },
        (answer) => {
          let text = '';
          answer.on('data', (part: Buffer) => (text += part.toString()));
          answer.on('end', () => resolve({ status: answer.statusCode!, headers: answer.headers, text }));
        },
      );
      asked.on('error', reject);
      asked.end(body === undefined ? undefined : JSON.stringify(body));
    });

  beforeAll(async () => {
    world = await World.make();
    port = await freePort();
    const certificate = ['-keyout', join(folder, 'key.pem'), '-out', join(folder, 'cert.pem')];
    const named = ['-subj', '/CN=localhost', '-addext', 'subjectAltName=DNS:localhost'];
    const made = ['req', '-x509', '-newkey', 'rsa:2048', '-nodes', '-days', '2', ...certificate, ...named];
    execFileSync('openssl', made, { stdio: 'ignore' });
    const config = readConfig({
      DATABASE_URL: world.url,
      PORT: '0',
      LOG_LEVEL: 'silent',
      JOBS: 'no',
      PUBLIC_URL: 'https://orders.example/',
      TRUSTED_PROXIES: '127.0.0.1',
    });
    serving = await serve(config, pino({ level: 'silent' }));
    writeFileSync(join(folder, 'nginx.conf'), nginxConf(folder, port, serving.address));
    const path = `${process.env['PATH']}:/usr/sbin`;
    proxy = spawn('nginx', ['-c', join(folder, 'nginx.conf'), '-p', folder, '-e', join(folder, 'error.log')], {
      env: { ...process.env, PATH: path },
      stdio: 'ignore',
    });
    await until('the proxy to answer', () =>
      ask('/healthz').then(
        ({ status }) => status === 200,
        () => false,
      ),
    );
  });
  afterAll(async () => {
    proxy.kill();
    await serving.stop();
    await world.end();
    rmSync(folder, { recursive: true });
  });

  const signedIn = async () => {
    const answer = await ask('/api/sign-in', { signIn: 'salmah', password: 'jetty-lantern' });
    expect(answer.status).toBe(200);
    const set = answer.headers['set-cookie'] as string[];
    return {
      set,
      headers: {
        cookie: set.map((each) => each.split(';')[0]).join('; '),
        'X-Kampong-Token': (JSON.parse(answer.text) as { token: string }).token,
        'Idempotency-Key': 'behind-a-proxy',
      },
    };
  };

  /** An order to save. */
  const draft = () => {
    const { id, shipTos } = world.masters.customers.get('Kasturi Bottling')!;
    const line = { id: null, itemId: world.item('SALT-25'), quantity: '1', shipDate: '2027-03-08', route: 'stock' };
    return { id: null, version: null, customerId: id, shipToId: shipTos[0], customerReference: 'KB-1', lines: [line] };
  };

  it('signs in with cookies that only HTTPS carries and only this host can set', async () => {
    const { set, headers } = await signedIn();
    expect(set.map((each) => each.split('=')[0])).toEqual(['__Host-kampong', '__Host-kampong-device']);
    for (const each of set) expect(each).toMatch(/; path=\/;.*; secure; httponly/i);
    for (const each of set) expect(each).not.toMatch(/domain=/i);
    const session = await ask('/api/session', undefined, headers);
    expect((JSON.parse(session.text) as { session: { person: { name: string } } }).session.person.name).toBe('Salmah');
    expect(session.headers['strict-transport-security']).toBe('max-age=31536000');
  });

  it('sends the same cookies where only SECURE_COOKIE says that HTTPS is before it', async () => {
    const secure = await serve(
      readConfig({ DATABASE_URL: world.url, PORT: '0', LOG_LEVEL: 'silent', JOBS: 'no', SECURE_COOKIE: 'yes' }),
      pino({ level: 'silent' }),
    );
    const answer = await fetch(`${secure.address}/api/sign-in`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ signIn: 'salmah', password: 'jetty-lantern' }),
    });
    expect(answer.status).toBe(200);
    expect(answer.headers.getSetCookie().map((each) => each.split('=')[0])).toEqual([
      '__Host-kampong',
      '__Host-kampong-device',
    ]);
    await secure.stop();
  });

  it('knows whom a request came from, whatever is claimed before the proxy', async () => {
    const { headers } = await signedIn();
    const claimed = { ...headers, 'X-Forwarded-For': '198.51.100.7' };
    expect((await ask('/api/acts/saveOrder', draft(), claimed)).status).toBe(200);
    const [audit] = await world.serving.database.rows<{ origin: string }>(
      'SELECT origin FROM audit ORDER BY id DESC LIMIT 1',
    );
    expect(audit!.origin).toBe('127.0.0.9');
  });

  it('believes nobody else', async () => {
    const salmah = await world.visitor();
    const claimed = { 'X-Forwarded-For': '198.51.100.7', 'X-Forwarded-Proto': 'https' };
    const key = { 'Idempotency-Key': 'straight-to-it', ...claimed };
    expect((await salmah.post('/api/acts/saveOrder', draft(), key)).status).toBe(200);
    const [audit] = await world.serving.database.rows<{ origin: string }>(
      'SELECT origin FROM audit ORDER BY id DESC LIMIT 1',
    );
    expect(audit!.origin).toBe('127.0.0.1');
  });

  it('says its public address in links, whatever host was asked for', async () => {
    const salmah = await world.visitor();
    await agreed(world, salmah);
    const { path } = (await salmah.post('/api/calendar', {})).body as { path: string };
    const linked = async (address: string) => {
      const feed = await fetch(address + path, { headers: { 'X-Forwarded-Host': 'elsewhere.example' } });
      return (await feed.text()).match(/URL[^:]*:(\S+?)\/agreements/)![1];
    };
    expect(await linked(serving.address)).toBe('https://orders.example');
    expect(await linked(world.serving.address)).toBe(world.serving.address);
    const { text } = await ask(path, undefined, { Host: 'elsewhere.example' });
    expect(text).toContain('https://orders.example/agreements/');
    expect(text).not.toContain('elsewhere');
  });
});
