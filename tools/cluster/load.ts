import { randomUUID } from 'node:crypto';

/** An act that was answered: once for ever, whatever was killed meanwhile. */
export interface Accepted {
  key: string;
  order: number;
  at: number;
}

interface Answer {
  status: number;
  text: string;
}

interface Session {
  address: string;
  cookie: string;
  token: string;
}

export async function signIn(address: string, signIn: string, password: string): Promise<Session> {
  const response = await fetch(`${address}/api/sign-in`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ signIn, password }),
  });
  const { token } = (await response.json()) as { token: string };
  const cookie = response.headers
    .getSetCookie()
    .map((set) => set.split(';')[0])
    .join('; ');
  return { address, cookie, token };
}

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** A minute. */
const MOST_TRIES = 600;

/** Sends an act until it is answered: with the same key each time, so that it is done once. */
async function answered(session: Session, act: string, input: unknown, key: string): Promise<Answer> {
  let last = 'nothing';
  for (let tries = 0; ; tries += 1) {
    try {
      const response = await fetch(`${session.address}/api/acts/${act}`, {
        method: 'POST',
        headers: {
          'Content-Type': 'application/json',
          cookie: session.cookie,
          'X-Kampong-Token': session.token,
          'Idempotency-Key': key,
        },
        body: JSON.stringify(input),
        signal: AbortSignal.timeout(20_000),
      });
      const text = await response.text();
      if (response.status < 500 && response.status !== 429 && response.status !== 401) {
        return { status: response.status, text };
      }
      last = `${response.status} ${text.slice(0, 300)}`;
    } catch (error) {
      // Nobody answered: whether it was done is not known.
      last = (error as Error).message;
    }
    if (tries > MOST_TRIES) throw new Error(`${act} was not answered: ${last}`);
    await pause(100);
  }
}

export class Load {
  readonly accepted: Accepted[] = [];
  refused = 0;
  private going = true;
  private clients: Promise<void>[] = [];

  /** `inputs` gives what each turn releases; every act is sent twice at the same moment. */
  constructor(
    private readonly session: Session,
    private readonly inputs: (client: number, turn: number) => unknown,
  ) {}

  begin(clients: number): void {
    this.clients = Array.from({ length: clients }, (_, client) => this.client(client));
  }

  private async client(client: number): Promise<void> {
    for (let turn = 0; this.going; turn += 1) {
      const key = randomUUID();
      const input = this.inputs(client, turn);
      const twins = await Promise.all([1, 2].map(() => answered(this.session, 'releaseAgreement', input, key)));
      const bodies = twins.map(({ text }) => text);
      const [one, other] = twins;
      if (one!.status !== other!.status) throw new Error(`twins differ: ${bodies.join(' and ')}`);
      if (one!.status !== 200) {
        this.refused += 1;
        continue;
      }
      if (bodies[0] !== bodies[1]) throw new Error(`twins were answered differently: ${bodies.join(' and ')}`);
      const { made } = JSON.parse(bodies[0]!) as { made: { id: number }[] };
      this.accepted.push({ key, order: made[0]!.id, at: performance.now() });
    }
  }

  async end(): Promise<void> {
    this.going = false;
    await Promise.all(this.clients);
  }

  /** The longest time in which nothing was accepted, in milliseconds. */
  longestPause(from: number, to: number): number {
    const times = [from, ...this.accepted.map(({ at }) => at).filter((at) => at > from && at < to), to].sort(
      (a, b) => a - b,
    );
    return Math.max(...times.slice(1).map((at, index) => at - times[index]!));
  }

  rate(from: number, to: number): number {
    return (this.accepted.filter(({ at }) => at > from && at < to).length * 1000) / (to - from);
  }
}
