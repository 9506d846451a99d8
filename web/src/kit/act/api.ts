import { Injectable } from '@angular/core';
import { retry, throwError, timer, type Observable } from 'rxjs';
import { fromFetch } from 'rxjs/fetch';
import { catchError, map } from 'rxjs/operators';
import type * as z from 'zod';
import { sentences } from '@core/refusals';
import { ActResult, preview, Problem, type ActEndpoint, type Endpoint, type RefusalOut } from '@api/kit';

export interface RefusalShown extends z.infer<typeof RefusalOut> {
  /** By what name the log knows the request that was refused. */
  reference?: string;
}
export type ActDone = z.infer<typeof ActResult>;
export interface Previewed<Shown> {
  refusals: RefusalShown[];
  warnings: RefusalShown[];
  effects: Shown | null;
}

/** What the server refused, or that it could not be reached (status 0). */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly refusals: RefusalShown[],
  ) {
    super(refusals.map((refusal) => refusal.sentence).join(' '));
  }
}

/** Turned away before anything was begun; after so many milliseconds it may be asked again. */
class ComeAgain extends Refused {
  constructor(
    refused: Refused,
    readonly afterMs: number,
  ) {
    super(refused.status, refused.refusals);
  }
}

/** How often one that was turned away comes again before it is said. */
const COMES_AGAIN = 6;
/** Nobody looks at an empty page for longer, whatever was asked for. */
const LONGEST_MS = 10_000;

/** After so long without a key or a button what is asked for is the screen's own doing. */
const UNTOUCHED_MS = 60_000;

/** The status of an act that waits for a second person: taken, and not done. (RFC 9110, 15.3.3) */
export const ASKED_FOR_STATUS = 202;

const refusalOf = (code: 'asked-for'): RefusalShown => ({ code, field: '', facts: {}, sentence: sentences[code]() });

const OUT_OF_REACH: RefusalShown = {
  code: 'out-of-reach',
  field: '',
  facts: {},
  sentence: 'Kampong cannot be reached just now. What you typed is kept; try again when the connection is back.',
};

/**
 * The client of the contract: every call is made when it is subscribed to, checked by the endpoint's own schemas, and
 * given up where nobody waits for it any more.
 */
@Injectable({ providedIn: 'root' })
export class Api {
  /** Set by the session: goes with every post. */
  token = '';
  /** Called where the server says nobody is signed in any more. */
  onSignedOut: () => void = () => undefined;
  /** When somebody last pressed a key or a button here. */
  private touchedAt = performance.now();
  /** A key per act and input, kept until there is an answer: a retry after a lost connection does nothing twice. */
  private readonly keys = new Map<string, string>();

  constructor() {
    for (const event of ['keydown', 'pointerdown']) {
      document.addEventListener(event, () => (this.touchedAt = performance.now()), { capture: true, passive: true });
    }
  }

  call<E extends Endpoint>(
    endpoint: E,
    given: {
      params?: z.input<E['params']>;
      query?: z.input<E['query']>;
      body?: z.input<E['body']>;
    } = {},
  ): Observable<z.output<E['out']>> {
    const params = (given.params ?? {}) as Record<string, unknown>;
    const path = endpoint.path.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(String(params[name])));
    const query = new URLSearchParams();
    for (const [name, value] of Object.entries((given.query ?? {}) as Record<string, unknown>)) {
      if (value !== undefined && value !== '') query.set(name, String(value));
    }
    const address = `/api${path}${query.size > 0 ? `?${query}` : ''}`;
    return this.send(endpoint.method, address, given.body, {}, endpoint.out) as Observable<z.output<E['out']>>;
  }

  /** Does an act, once by its key: `own` for one that is kept longer than this page. // P2 */
  act<E extends ActEndpoint>(endpoint: E, input: z.input<E['input']>, own?: string): Observable<ActDone> {
    const content = `${endpoint.name} ${JSON.stringify(input)}`;
    const key = own ?? this.keys.get(content) ?? crypto.randomUUID();
    if (own === undefined) this.keys.set(content, key);
    return this.send('POST', `/api/acts/${endpoint.name}`, input, { 'Idempotency-Key': key }, ActResult, () =>
      this.keys.delete(content),
    ).pipe(
      map((done) => {
        // Nothing is done yet: whoever did it goes on as if it had been refused, but for the word.
        if (done.asked !== undefined) throw new Refused(ASKED_FOR_STATUS, [refusalOf('asked-for')]);
        return done;
      }),
    );
  }

  preview<E extends ActEndpoint>(
    endpoint: E,
    input: z.input<E['input']>,
  ): Observable<Previewed<z.output<E['preview']>>> {
    return this.send('POST', `/api/acts/${endpoint.name}/preview`, input, {}, preview(endpoint.preview)) as Observable<
      Previewed<z.output<E['preview']>>
    >;
  }

  private send<S extends z.ZodType>(
    method: string,
    address: string,
    body: unknown,
    headers: Record<string, string>,
    schema: S,
    answered: () => void = () => undefined,
  ): Observable<z.output<S>> {
    return fromFetch(address, {
      method,
      credentials: 'same-origin',
      headers: {
        ...headers,
        // What a screen reads by itself keeps no session alive.
        ...(performance.now() - this.touchedAt > UNTOUCHED_MS ? { 'X-Kampong-Untouched': 'yes' } : {}),
        ...(method === 'POST' ? { 'Content-Type': 'application/json', 'X-Kampong-Token': this.token } : {}),
      },
      ...(method === 'POST' ? { body: JSON.stringify(body ?? {}) } : {}),
      selector: async (response): Promise<z.output<S>> => {
        if (response.ok) {
          const answer = schema.parse(await response.json());
          answered();
          return answer;
        }
        const problem = Problem.safeParse(await response.json().catch(() => null));
        if (response.status < 500) answered();
        if (response.status === 401) this.onSignedOut();
        const refused = new Refused(response.status, problem.success ? shownOf(problem.data) : [OUT_OF_REACH]);
        const seconds = Number(response.headers.get('Retry-After') ?? NaN);
        throw seconds >= 0 ? new ComeAgain(refused, Math.min(seconds * 1000, LONGEST_MS)) : refused;
      },
    }).pipe(
      retry({
        count: COMES_AGAIN,
        delay: (error: unknown) => (error instanceof ComeAgain ? timer(error.afterMs) : throwError(() => error)),
      }),
      catchError((error: unknown) =>
        throwError(() => (error instanceof TypeError ? new Refused(0, [OUT_OF_REACH]) : error)),
      ),
    );
  }
}

const shownOf = ({ refusals, reference }: z.infer<typeof Problem>): RefusalShown[] =>
  refusals.map((refusal) => ({ ...refusal, reference }));

/** The refusals of an error, whatever it is. */
export function refusalsOf(error: unknown): RefusalShown[] {
  if (error instanceof Refused) return error.refusals;
  return [
    {
      code: 'fault',
      field: '',
      facts: {},
      sentence: 'Something unexpected came back; reload the page and look whether it was done.',
    },
  ];
}
