import { TestBed } from '@angular/core/testing';
import { firstValueFrom } from 'rxjs';
import * as contract from '@api/agreements';
import { Api, Refused } from './api';

interface Sent {
  address: string;
  headers: Record<string, string>;
  body: unknown;
}

/** Answers each fetch with the next of the given answers; an Error is a lost connection. */
function serverOf(...answers: (Error | { status: number; body: unknown; again?: string })[]): Sent[] {
  const sent: Sent[] = [];
  globalThis.fetch = ((address: string, given: { headers: Record<string, string>; body?: string }) => {
    sent.push({ address, headers: given.headers, body: given.body === undefined ? undefined : JSON.parse(given.body) });
    const answer = answers[sent.length - 1] ?? new TypeError('no more answers');
    if (answer instanceof Error) return Promise.reject(answer);
    return Promise.resolve({
      ok: answer.status < 400,
      status: answer.status,
      headers: new Headers(answer.again === undefined ? {} : { 'Retry-After': answer.again }),
      json: () => Promise.resolve(answer.body),
    });
  }) as unknown as typeof fetch;
  return sent;
}

const made = { status: 200, body: { made: [{ kind: 'AG', id: 1, number: 'AG-0001' }], touched: [] } };
const input = { id: 1, version: 2 };
const problem = (status: number, code: string) => ({
  status,
  body: {
    type: 'about:blank',
    title: 'Refused',
    status,
    detail: '',
    reference: '4f3a91c2',
    refusals: [{ code, field: 'lines', facts: {}, sentence: 'No.' }],
  },
});

describe('the client of the contract', () => {
  const api = () => TestBed.inject(Api);
  const act = () => firstValueFrom(api().act(contract.putInForce, input));
  beforeAll(() => {
    let keys = 0;
    Object.defineProperty(globalThis.crypto, 'randomUUID', { value: () => `key-${(keys += 1)}`, configurable: true });
  });

  it('gives a request up where nobody waits for it any more', () => {
    let given: AbortSignal | undefined;
    globalThis.fetch = ((_: string, { signal }: { signal: AbortSignal }) => {
      given = signal;
      return new Promise(() => undefined);
    }) as unknown as typeof fetch;
    const waiting = api().preview(contract.putInForce, input).subscribe();
    expect(given!.aborted).toBe(false);
    waiting.unsubscribe();
    expect(given!.aborted).toBe(true);
  });

  it('P2 a retry after a lost connection goes with the key of the first try; after an answer a new one begins', async () => {
    const sent = serverOf(new TypeError('lost'), made, made);
    await expect(act()).rejects.toThrow('Kampong cannot be reached');
    await act();
    await act();
    const [first, second, third] = sent.map((each) => each.headers['Idempotency-Key']);
    expect(first).toBe(second);
    expect(third).not.toBe(first);
  });

  it('comes again when it was told to, with the same key; after some turns it is said, with the name the log knows', async () => {
    const away = { ...problem(503, 'too-busy'), again: '0.01' };
    const sent = serverOf(away, { ...problem(429, 'too-busy'), again: '0' }, made);
    await act();
    expect(new Set(sent.map((each) => each.headers['Idempotency-Key'])).size).toBe(1);
    expect(sent).toHaveLength(3);
    const all = serverOf(...Array.from({ length: 20 }, () => away));
    const error = await act().catch((each: unknown) => each);
    expect((error as Refused).refusals).toMatchObject([{ code: 'too-busy', reference: '4f3a91c2' }]);
    expect(all).toHaveLength(7);
  });

  it('keeps the key too where the server broke down, for nobody knows whether it was done', async () => {
    const sent = serverOf(problem(503, 'database-away'), problem(422, 'no-lines'), made);
    await expect(act()).rejects.toBeInstanceOf(Refused);
    await expect(act()).rejects.toBeInstanceOf(Refused);
    await act();
    const keys = sent.map((each) => each.headers['Idempotency-Key']);
    expect(keys[0]).toBe(keys[1]);
    expect(keys[2]).not.toBe(keys[1]);
  });

  it('carries the refusals with their fields, and tells where nobody is signed in', async () => {
    serverOf(problem(401, 'signed-out'));
    let out = 0;
    api().onSignedOut = () => (out += 1);
    const error = await act().catch((each: unknown) => each);
    expect((error as Refused).refusals).toMatchObject([{ code: 'signed-out', field: 'lines' }]);
    expect(out).toBe(1);
  });

  it('sends the token with what changes something, fills the path, and leaves empty query words out', async () => {
    api().token = 't0ken';
    const sent = serverOf(made, { status: 200, body: { rows: [], next: null } });
    await act();
    await firstValueFrom(api().call(contract.listAgreements, { query: { q: '' } }));
    expect(sent[0]).toMatchObject({ address: '/api/acts/putInForce', body: input });
    expect(sent[0]!.headers['X-Kampong-Token']).toBe('t0ken');
    expect(sent[1]!.address).toBe('/api/agreements');
    expect(sent[1]!.headers['X-Kampong-Token']).toBeUndefined();
  });

  it('does not pass on an answer that is not what the contract says', async () => {
    serverOf({ status: 200, body: { made: 'many' } });
    await expect(act()).rejects.not.toBeInstanceOf(Refused);
  });
});
