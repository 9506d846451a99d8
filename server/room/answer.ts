import type { Context } from 'koa';
import type * as z from 'zod';
import type { Refusal } from '@core/refusals';
import type { Endpoint } from '@api/kit';
import type { Sql } from '../db';
import type { Parts, SignedIn } from './parts';

/** Thrown to answer a request with refusals. */
export class Refusals extends Error {
  constructor(
    readonly status: number,
    readonly refusals: Refusal[],
  ) {
    super(refusals.map((refusal) => refusal.code).join(', '));
  }
}

/** What an endpoint is asked: its checked input, who asks, and the server's parts. */
export interface Request<E extends Endpoint> {
  ctx: Context;
  parts: Parts;
  params: z.output<E['params']>;
  query: z.output<E['query']>;
  body: z.output<E['body']>;
  /** Nobody for endpoints open to everybody. */
  who: SignedIn | null;
}

/** An endpoint with what answers it; its input is checked before, its answer in tests. */
export interface Answer {
  endpoint: Endpoint;
  handle(request: Request<Endpoint>): Promise<unknown>;
}

/** An endpoint with what answers it. */
export function answers<E extends Endpoint>(
  endpoint: E,
  handle: (request: Request<E>) => Promise<z.output<E['out']>>,
): Answer {
  return { endpoint, handle: (request) => handle(request as Request<E>) };
}

/** A read of the signed-in person's company, at one moment. */
export function reads<E extends Endpoint>(
  endpoint: E,
  read: (
    sql: Sql,
    companyId: number,
    asked: Pick<Request<E>, 'params' | 'query' | 'body'> & { workDate: string },
  ) => Promise<z.output<E['out']>>,
): Answer {
  return answers(endpoint, ({ parts, who, params, query, body }) =>
    parts.database.snapshot((sql) => read(sql, who!.companyId, { params, query, body, workDate: who!.workDate })),
  );
}
