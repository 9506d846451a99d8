import { inject, Injectable } from '@angular/core';
import { concatMap, from, of, type Observable } from 'rxjs';
import { catchError, map, switchMap, toArray } from 'rxjs/operators';
import { invoiceCustomer } from '@api/billing';
import type { DocumentRef } from '@core/kernel';
import { InvoiceCustomerSheet, type InvoiceCustomerData } from '../billing';
import { Api, refusalsOf } from '../kit/act/api';
import { AskSheet, type Asks } from '../kit/act/ask-sheet';
import { Notices } from '../kit/act/notices';
import { Sheets } from '../kit/act/sheet';
import { counted } from '../kit/formats';
import type { MarkAct } from '../kit/live/list-page';
import { Orders, type OrderRow } from './service';

interface Outcome {
  number: string;
  made: DocumentRef | null;
  /** Why it was not done. */
  why: string;
}

const drafts = (rows: readonly OrderRow[]) => rows.filter(({ state }) => state === 'draft');
const toInvoice = (rows: readonly OrderRow[]) =>
  rows.filter(({ state, shares }) => state === 'confirmed' && shares.shipped > shares.invoiced);

/** Orders of one customer and currency together, each group for one invoice. */
export function groupsOf(rows: readonly OrderRow[]): OrderRow[][] {
  const groups = new Map<string, OrderRow[]>();
  for (const row of rows) {
    const key = `${row.customer.id} ${row.currency}`;
    groups.set(key, [...(groups.get(key) ?? []), row]);
  }
  return [...groups.values()];
}

/** What was done of several, and what was not with its first reason, in words. */
export function told(outcomes: readonly Outcome[], done: string): string {
  const failed = outcomes.filter(({ made }) => made === null);
  const well = outcomes.length - failed.length;
  const rest = failed.map(({ number, why }) => `${number} was not: ${why}`);
  return [`${well} of ${outcomes.length} ${done}.`, ...rest].join(' ');
}

/** What is done with orders that are marked in their list, each by itself: what one is refused stops no other. */
@Injectable({ providedIn: 'root' })
export class MarkedOrders {
  private readonly api = inject(Api);
  private readonly orders = inject(Orders);
  private readonly sheets = inject(Sheets);
  private readonly notices = inject(Notices);

  readonly acts: readonly MarkAct<OrderRow>[] = [
    {
      label: (rows) => (drafts(rows).length > 0 ? `Confirm ${counted(drafts(rows).length, 'draft')}` : null),
      do: (rows) =>
        this.each(drafts(rows), 'confirmed', (row) =>
          this.orders.open(row.id).pipe(switchMap(({ id, version }) => this.orders.confirm(id, version, ''))),
        ),
    },
    {
      label: (rows) => (toInvoice(rows).length > 0 ? `Invoice ${counted(toInvoice(rows).length, 'order')}…` : null),
      do: (rows) => this.invoice(groupsOf(toInvoice(rows))),
    },
  ];

  private invoice(groups: readonly OrderRow[][]): void {
    const [first] = groups;
    if (groups.length === 1) {
      const { customer, currency } = first![0]!;
      this.sheets
        .open<InvoiceCustomerData>(InvoiceCustomerSheet, { customer, currency, orders: first! })
        .subscribe((done) => done && this.notices.show('Invoiced:', done.made[0] ?? null));
      return;
    }
    const words = groups.map((group) => `${group[0]!.customer.name}: ${group.map(({ number }) => number).join(', ')}`);
    this.sheets
      .choose<Asks, boolean>(AskSheet, {
        head: `Post ${counted(groups.length, 'invoice')}?`,
        sub: 'One for each customer and currency, of all that went out on these orders and is not invoiced',
        act: `Post ${counted(groups.length, 'invoice')}`,
        words,
      })
      .subscribe((sure) => {
        if (!sure) return;
        this.each(
          groups.map(([row, ...others]) => ({ ...row!, others: others.map(({ id }) => id) })),
          'invoiced',
          ({ id, others }) => this.api.act(invoiceCustomer, { orderId: id, others }),
        );
      });
  }

  /** One after the other, then says what came of them. */
  private each<Row extends OrderRow>(
    rows: readonly Row[],
    done: string,
    act: (row: Row) => Observable<{ made: DocumentRef[]; touched: DocumentRef[] }>,
  ): void {
    from(rows)
      .pipe(
        concatMap((row) =>
          act(row).pipe(
            map(({ made, touched }): Outcome => ({
              number: row.number,
              made: made[0] ?? touched[0] ?? itself(row),
              why: '',
            })),
            catchError((error: unknown) =>
              of<Outcome>({ number: row.number, made: null, why: refusalsOf(error)[0]?.sentence ?? 'it was refused.' }),
            ),
          ),
        ),
        toArray(),
      )
      .subscribe((outcomes) => {
        const last = outcomes.findLast(({ made }) => made !== null)?.made ?? null;
        this.notices.show(told(outcomes, done), outcomes.length === 1 ? last : null);
      });
  }
}

const itself = ({ id, number }: OrderRow): DocumentRef => ({ kind: 'SO', id, number });
