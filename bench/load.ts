import { createHash, randomBytes, randomUUID } from 'node:crypto';
import { Agent, request } from 'node:http';
import { addDays } from '@core/kernel';
import type { Figure } from './measure';
import { WORK_DATE, type Stage } from './stage';

const CLIENTS = [1, 16, 64, 256];

interface Answered {
  status: number;
  ms: number;
  againMs: number;
}

interface Told {
  /** Answered each second, turned away ones apart. */
  rate: number;
  p50: number;
  p95: number;
  p99: number;
  /** Share of all that was asked and turned away. */
  shed: number;
}

/** Sessions of their own, so that no client is held to another's share. */
async function sessionsOf({ database, masters }: Stage, count: number): Promise<{ cookie: string; token: string }[]> {
  const people = [...masters.people.values()];
  const sessions = Array.from({ length: count }, () => ({
    cookie: randomBytes(32).toString('base64url'),
    token: randomBytes(32).toString('base64url'),
  }));
  for (const { cookie, token } of sessions) {
    await database.run(
      'INSERT INTO session (token_hash, person_id, company_id, csrf, expires_at) VALUES (?, ?, ?, ?, UTC_TIMESTAMP() + INTERVAL 1 HOUR)',
      [createHash('sha256').update(cookie).digest(), people[0]!, masters.companyId, token],
    );
  }
  return sessions;
}

const quantile = (sorted: readonly number[], share: number) => sorted[Math.floor((sorted.length - 1) * share)] ?? 0;

/**
 * People at work: seven in ten ask for an order, two for a list, one releases. So many at once for some seconds; who is
 * turned away comes again when told to, as the web does.
 */
export async function benchLoad(stage: Stage, full: boolean): Promise<Figure[]> {
  const seconds = full ? 20 : 6;
  const agreements: { id: number; lineIds: number[] }[] = [];
  for (let index = 0; index < 32; index += 1) agreements.push(await stage.agreement(['RO-4040'], '1000000'));
  const orders: number[] = [];
  for (let index = 0; index < 64; index += 1) {
    const [id] = await stage.actor.does('releaseAgreement', stage.releaseOf(agreements[index % 32]!, '3'), WORK_DATE);
    orders.push(id!);
  }
  const sessions = await sessionsOf(stage, Math.max(...CLIENTS));
  const agent = new Agent({ keepAlive: true, maxSockets: Math.max(...CLIENTS) });
  const ask = (client: number, method: string, path: string, body = ''): Promise<Answered> =>
    new Promise((resolve, reject) => {
      const begun = performance.now();
      const { cookie, token } = sessions[client]!;
      const sent = request(
        new URL(path, stage.address),
        {
          method,
          agent,
          headers: {
            cookie: `kampong=${cookie}`,
            'X-Kampong-Token': token,
            'Idempotency-Key': randomUUID(),
            ...(body && { 'Content-Type': 'application/json', 'Content-Length': Buffer.byteLength(body) }),
          },
        },
        (answer) => {
          answer.resume();
          answer.on('end', () =>
            resolve({
              status: answer.statusCode!,
              ms: performance.now() - begun,
              againMs: Number(answer.headers['retry-after'] ?? 0) * 1000,
            }),
          );
        },
      );
      sent.on('error', reject);
      sent.end(body);
    });
  const one = (client: number, turn: number): Promise<Answered> => {
    const kind = turn % 10;
    if (kind < 7) return ask(client, 'GET', `/api/orders/${orders[(client * 7 + turn) % orders.length]!}`);
    if (kind < 9) return ask(client, 'GET', '/api/orders?limit=50');
    const release = stage.releaseOf(agreements[(client + turn) % 32]!, '1');
    release.lines.forEach((line) => (line.shipDate = addDays(WORK_DATE, 10)));
    return ask(client, 'POST', '/api/acts/releaseAgreement', JSON.stringify(release));
  };
  const at = async (clients: number): Promise<Told> => {
    const times: number[] = [];
    let shed = 0;
    const last = performance.now() + seconds * 1000;
    await Promise.all(
      Array.from({ length: clients }, async (_, client) => {
        for (let turn = client; performance.now() < last; turn += 1) {
          const { status, ms, againMs } = await one(client, turn);
          // What ends after the bell is nobody's.
          if (status === 200) {
            if (performance.now() < last) times.push(ms);
          } else if (againMs === 0) throw new Error(`a request was answered ${status}`);
          else {
            shed += 1;
            turn -= 1;
            await new Promise((resolve) => setTimeout(resolve, againMs));
          }
        }
      }),
    );
    const rate = times.length / seconds;
    times.sort((a, b) => a - b);
    const [p50, p95, p99] = [0.5, 0.95, 0.99].map((share) => quantile(times, share)) as [number, number, number];
    return { rate, p50, p95, p99, shed: shed / (times.length + shed) };
  };
  await at(16);
  const told = new Map<number, Told>();
  for (const clients of CLIENTS) told.set(clients, await at(clients));
  agent.destroy();
  const floor = told.get(16)!;
  return [...told].flatMap(([clients, { rate, p50, p95, p99, shed }]) => {
    const ms = (value: number) => `${value.toFixed(0)} ms`;
    console.log(
      `load, ${clients} clients: ${rate.toFixed(0)}/s, p50 ${ms(p50)}, p95 ${ms(p95)}, p99 ${ms(p99)}, turned away ${(shed * 100).toFixed(1)} %`,
    );
    if (clients <= 16) return [];
    return [
      {
        name: `load, ${clients} clients, rate`,
        ours: `${rate.toFixed(0)}/s`,
        theirs: `${floor.rate.toFixed(0)}/s`,
        ratios: [rate / floor.rate],
        aim: '≥ 0.9 of 16 clients',
      },
      {
        name: `load, ${clients} clients, p95`,
        ours: ms(p95),
        theirs: ms(floor.p95),
        ratios: [p95 / floor.p95],
        aim: '≤ 4 of 16 clients',
      },
    ];
  });
}
