import { randomUUID } from 'node:crypto';
import { pino } from 'pino';
import { Actor } from '../sample/actor';
import { layMasters, type Masters } from '../sample/masters';
import { layOpeningStock } from '../sample/opening-stock';
import { PEOPLE } from '../sample/people';
import { fixedTerm, PLAIN_HEAD } from '../sample/terms';
import { layWorks } from '../sample/works';
import type { Clock } from '../clock';
import { readConfig } from '../config';
import { connect } from '../db';
import { migrate } from '../db/migrate';
import { serve, type Serving } from '../serve';
import { copyOfTemplate } from './copy';
import { until } from './process';
import { verify } from '../verify';

export const WORK_DATE = '2027-03-01';

interface Answer {
  status: number;
  body: unknown;
}

export interface Made {
  made: { kind: string; id: number; number: string }[];
}

export interface Refusals {
  status: number;
  codes: string[];
  sentences: string[];
}

/** One signed-in person, talking to the server through HTTP as the web does. */
export class Visitor {
  private readonly cookies = new Map<string, string>();
  token = '';
  constructor(private readonly address: string) {}

  get cookie(): string {
    return [...this.cookies].map(([name, value]) => `${name}=${value}`).join('; ');
  }

  async signIn(name: string, password: string): Promise<Answer> {
    const answer = await this.post('/api/sign-in', { signIn: name, password });
    if (answer.status === 200) this.token = (answer.body as { token: string }).token;
    return answer;
  }

  async get<Body = unknown>(path: string): Promise<Body> {
    const response = await fetch(this.address + path, { headers: { cookie: this.cookie } });
    return (await response.json()) as Body;
  }

  async post(path: string, body: unknown, headers: Record<string, string> = {}): Promise<Answer> {
    const response = await fetch(this.address + path, {
      method: 'POST',
      headers: {
        'Content-Type': 'application/json',
        cookie: this.cookie,
        'X-Kampong-Token': this.token,
        ...headers,
      },
      body: JSON.stringify(body),
    });
    for (const set of response.headers.getSetCookie()) {
      const [name, value] = set.split(';')[0]!.split('=') as [string, string];
      this.cookies.set(name, value);
    }
    return { status: response.status, body: await response.json() };
  }

  raw(name: string, input: unknown, key: string = randomUUID()): Promise<Answer> {
    return this.post(`/api/acts/${name}`, input, { 'Idempotency-Key': key });
  }

  /** Does an act that must succeed; what it made. */
  async does(name: string, input: unknown, key?: string): Promise<Made['made']> {
    const answer = await this.raw(name, input, key);
    if (answer.status !== 200) throw new Error(`${name}: ${JSON.stringify(answer.body)}`);
    return (answer.body as Made).made;
  }

  /** Does an act that must be refused. */
  async refused(name: string, input: unknown, key?: string): Promise<Refusals> {
    const answer = await this.raw(name, input, key);
    if (answer.status === 200) throw new Error(`${name} was not refused`);
    return refusalsOf(answer);
  }
}

export function refusalsOf(answer: Answer): Refusals {
  const { refusals } = answer.body as { refusals: { code: string; field: string; sentence: string }[] };
  return {
    status: answer.status,
    codes: refusals.map((refusal) => (refusal.field ? `${refusal.field}: ${refusal.code}` : refusal.code)),
    sentences: refusals.map((refusal) => refusal.sentence),
  };
}

/** A fresh database with the demo's masters and a server on it. */
export class World {
  private constructor(
    readonly url: string,
    readonly serving: Serving,
    readonly masters: Masters,
    private readonly drop: () => Promise<void>,
  ) {}

  /** Makes a database of its own beside the one the tests were given, so that suites do not meet. */
  static async make(clock?: Clock, settings: Record<string, string> = {}): Promise<World> {
    const { url, said, drop } = await copyOfTemplate('masters', async (from) => {
      await migrate(from, 'server/db/sql');
      const database = connect(from, 2);
      const masters = await layMasters(database);
      await database.run('UPDATE company SET work_date = ?, customer_invoice_first = FALSE', [WORK_DATE]);
      await database.close();
      return JSON.stringify(masters, (_, value: unknown) => (value instanceof Map ? { entries: [...value] } : value));
    });
    const masters = JSON.parse(said, (_, value: unknown) =>
      isMapped(value) ? new Map(value.entries) : value,
    ) as Masters;
    const config = readConfig({
      DATABASE_URL: url,
      PORT: '0',
      LOG_LEVEL: 'silent',
      DATABASE_CONNECTIONS: '20',
      JOBS: 'no',
      CHECK_ANSWERS: 'yes',
      WAITING: '10000',
      AT_ONCE_EACH: '10000',
      ...settings,
    });
    const serving = await serve(config, pino({ level: 'silent' }), clock);
    return new World(url, serving, masters, drop);
  }

  /** The demo's routings, work centres and opening stock, and its second place, laid on top. */
  async withWorks(): Promise<this> {
    const { database } = this.serving;
    await layWorks(database, this.masters, WORK_DATE);
    const actor = new Actor(database, this.masters.companyId, this.masters.people.get('joko')!, 'stock');
    await layOpeningStock(database, this.masters, actor.doer(WORK_DATE), WORK_DATE);
    return this;
  }

  /** Opens a second place for the company's goods; its location. */
  async secondPlace(visitor: Visitor): Promise<number> {
    const cells = { code: 'EAST', name: 'East coast store' };
    await visitor.does('keepList', { list: 'locations', changes: [{ id: null, stamp: '', cells }], removed: [] });
    const { rows } = await visitor.get<{ rows: { id: number; code: string }[] }>('/api/locations');
    return rows.find(({ code }) => code === cells.code)!.id;
  }

  /** Moves the work date of every company, also back. */
  async workOn(day: string): Promise<void> {
    await this.serving.database.run('UPDATE company SET work_date = ?', [day]);
    this.serving.sessions.forget();
  }

  async visitor(signIn: (typeof PEOPLE)[number]['signIn'] = 'salmah'): Promise<Visitor> {
    const visitor = new Visitor(this.serving.address);
    await visitor.signIn(signIn, PEOPLE.find((person) => person.signIn === signIn)!.password);
    return visitor;
  }

  /** Who somebody is in the first company. */
  async doer(signIn: string): Promise<{ companyId: number; personId: number }> {
    const sql = 'SELECT id FROM person WHERE sign_in = ?';
    const [person] = await this.serving.database.rows<{ id: number }>(sql, [signIn]);
    return { companyId: this.masters.companyId, personId: person!.id };
  }

  item(number: string): number {
    return this.masters.items.get(number)!.id;
  }

  /** Every difference between counters and documents. // G5 */
  verify(): Promise<string[]> {
    return verify(this.serving.database);
  }

  async end(): Promise<void> {
    await this.serving.stop();
    await this.drop();
  }
}

/** An agreement in force with Teratai Bay Resort over membranes; its id and its line's. */
export async function agreed(
  world: World,
  visitor: Visitor,
  change: Record<string, unknown> = {},
  committed = '100',
): Promise<{ id: number; lineId: number }> {
  const [agreement] = await visitor.does('saveAgreement', {
    ...PLAIN_HEAD,
    customerId: world.masters.customers.get('Teratai Bay Resort')!.id,
    title: 'Membranes',
    firstDay: '2027-01-01',
    lastDay: '2027-12-31',
    signedOn: '2026-12-20',
    lines: [fixedTerm(world.item('RO-4040'), committed, '740')],
    ...change,
  });
  await visitor.does('putInForce', { id: agreement!.id, version: 1 });
  const sheet = await visitor.get<{ lines: { id: number }[] }>(`/api/agreements/${agreement!.id}`);
  return { id: agreement!.id, lineId: sheet.lines[0]!.id };
}

export function releaseOf(
  world: World,
  agreement: { id: number; lineId: number },
  quantity: string,
  change: Record<string, unknown> = {},
) {
  return {
    agreementId: agreement.id,
    shipToId: world.masters.customers.get('Teratai Bay Resort')!.shipTos[0],
    customerReference: 'TBR-7781',
    lines: [{ agreementLineId: agreement.lineId, quantity, shipDate: '2027-03-12' }],
    ...change,
  };
}

/** Released, confirmed and placed: the order, its line, the purchase and its line. */
export async function placed(
  world: World,
  visitor: Visitor,
  agreement: { id: number; lineId: number },
  quantity: string,
) {
  const [order] = await visitor.does('releaseAgreement', releaseOf(world, agreement, quantity));
  await visitor.does('confirmOrder', { id: order!.id, version: 1 });
  const bench = await visitor.get<{ rows: { orderLineId: number; proposal: { vendorId: number } }[] }>(
    `/api/bench?orderId=${order!.id}`,
  );
  const row = bench.rows[0]!;
  const [purchase] = await visitor.does('placePurchases', {
    lines: [{ orderLineId: row.orderLineId, vendorId: row.proposal.vendorId }],
  });
  const sheet = await visitor.get<{ lines: { id: number }[] }>(`/api/purchases/${purchase!.id}`);
  return {
    orderId: order!.id,
    orderLineId: row.orderLineId,
    purchaseId: purchase!.id,
    purchaseLineId: sheet.lines[0]!.id,
  };
}

/** A run once it is done, stopped or failed. */
export async function settledRun<Run extends { state: string }>(visitor: Visitor, path: string): Promise<Run> {
  let settled: Run | null = null;
  await until(`the run of ${path}`, async () => {
    const { run } = await visitor.get<{ run: Run | null }>(path);
    if (run && !['waiting', 'running'].includes(run.state)) settled = run;
    return settled !== null;
  });
  return settled!;
}

/** A map as it stands in JSON. */
function isMapped(value: unknown): value is { entries: [unknown, unknown][] } {
  return typeof value === 'object' && value !== null && 'entries' in value && Array.isArray(value.entries);
}
