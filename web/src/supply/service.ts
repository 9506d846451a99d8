import { inject, Injectable } from '@angular/core';
import type * as z from 'zod';
import { concatMap, from, type Observable } from 'rxjs';
import { last, map } from 'rxjs/operators';
import * as contract from '@api/supply';
import { Api, type ActDone } from '../kit/act/api';
import { price } from '../kit/formats';

export type BenchRow = z.infer<typeof contract.BenchRow>;
export type PairRow = z.infer<typeof contract.PairRow>;
export type TieCandidate = z.infer<typeof contract.TieCandidate>;

/** What was typed over a tie; what is missing stays as it is. */
export interface PairTyped {
  row: PairRow;
  quantity?: string;
  shipDate?: string;
  dueDate?: string;
  shipToId?: number;
}

/** The bench's way to the server. */
@Injectable({ providedIn: 'root' })
export class Bench {
  private readonly api = inject(Api);

  list(query: z.input<typeof contract.listBench.query>) {
    return this.api.call(contract.listBench, { query });
  }

  pairs(query: z.input<typeof contract.listPairs.query>) {
    return this.api.call(contract.listPairs, { query });
  }

  supplies(orderLineId: number): Observable<TieCandidate[]> {
    return this.api.call(contract.findSupplies, { params: { id: orderLineId } }).pipe(map(({ rows }) => rows));
  }

  sales(purchaseLineId: number): Observable<TieCandidate[]> {
    return this.api.call(contract.findSales, { params: { id: purchaseLineId } }).pipe(map(({ rows }) => rows));
  }

  untie(tieIds: readonly number[]): Observable<ActDone> {
    return this.api.act(contract.untie, { tieIds: [...tieIds] });
  }

  /** Ties what was parted, one after the other; what of it was done is told of the last. */
  tieAgain(
    ties: readonly { orderLineId: number; purchaseLineId: number; quantity: string }[],
  ): Observable<ActDone | undefined> {
    return from(ties).pipe(
      concatMap((tie) => this.api.act(contract.tieLine, tie)),
      last(undefined, undefined),
    );
  }

  toStock(purchaseId: number, version: number): Observable<ActDone> {
    return this.api.act(contract.purchaseToStock, { id: purchaseId, version });
  }
}

/** Why a vendor is proposed, in words. // L8 */
export const REASONS: Record<NonNullable<BenchRow['proposal']>['reason'], string> = {
  preferred: 'preferred',
  cheapest: 'the cheapest',
  fastest: 'the fastest at this price',
  only: 'the only one approved',
  planned: 'as planned',
};

/** Whom a row is for: an order's line, what is planned for one, or our own stock. */
export function forText(row: BenchRow): string {
  if (row.planned === null) return `${row.order!.number} line ${row.lineNo}`;
  return row.order ? `${row.order.number}, planned` : `${row.planned.number}, stock`;
}

type Offer = BenchRow['offers'][number];

/** A vendor's price in the company's currency, and in theirs where that is another: `MYR 47.04 (USD 10.50)`. // P8 */
export function offerPrice({ unitPrice, currency, ownPrice }: Offer, own: string): string {
  const theirs = `${currency} ${price(unitPrice, currency)}`;
  if (currency === own || unitPrice === '') return theirs;
  return ownPrice === '' ? `${theirs}, of which no rate is kept` : `${own} ${price(ownPrice, own)} (${theirs})`;
}

/** An address of a tie's customer, by its label; a dash for none. */
export const labelOf = ({ shipTos }: Pick<PairRow, 'shipTos'>, id: number | null) =>
  shipTos.find((each) => each.id === id)?.label ?? '–';
