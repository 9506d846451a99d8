import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { merge, of } from 'rxjs';
import { catchError, debounceTime, startWith, switchMap } from 'rxjs/operators';
import type * as z from 'zod';
import * as contract from '@api/setup';
import { Session } from '../access';
import { Api } from '../kit/act/api';
import { counted } from '../kit/formats';
import { LiveEvents } from '../kit/live/live';

type Missing = z.infer<typeof contract.missing.out>['rows'][number];

interface Step {
  says: (count: number) => string;
  step: string;
  path: string;
  query?: Record<string, string>;
}

const STEPS: Record<Missing['what'], Step> = {
  items: {
    says: () => 'There is nothing to sell yet.',
    step: 'Type items, or bring a file in',
    path: '/lists',
    query: { list: 'items' },
  },
  customers: {
    says: () => 'There is nobody to sell to yet.',
    step: 'Type customers, or bring a file in',
    path: '/lists',
    query: { list: 'customers' },
  },
  addresses: {
    says: (count) => `${counted(count, 'customer')} without an address goods go to.`,
    step: 'Type addresses',
    path: '/lists',
    query: { list: 'ship-tos' },
  },
  order: { says: () => 'No order was taken yet.', step: 'Take the first order', path: '/orders/new' },
  prices: {
    says: (count) => `${counted(count, 'item')} without a price to sell at.`,
    step: 'Type prices',
    path: '/lists',
    query: { list: 'items' },
  },
  vendors: {
    says: (count) =>
      count > 0 ? `${counted(count, 'item')} that no vendor is known of.` : 'There is nobody to buy from yet.',
    step: 'Say who sells them to us',
    path: '/lists',
    query: { list: 'vendor-items' },
  },
  stock: {
    says: (count) => `${counted(count, 'item')} we keep, and none was ever put on hand.`,
    step: 'Put the first stock on hand',
    path: '/opening/stock',
  },
  bank: {
    says: () => 'Invoices do not say where customers pay to.',
    step: 'Write our letterhead',
    path: '/lists',
    query: { list: 'letterhead' },
  },
  people: { says: () => 'You are alone here.', step: 'Invite somebody', path: '/people' },
};

/** What a new company still lacks before its first order, each with its step; it is gone once nothing does. // U1 */
@Component({
  selector: 'k-missing',
  imports: [RouterLink],
  template: `@if (shown().length > 0) {
    <section aria-label="Before the first order">
      <h2>Before the first order</h2>
      @for (each of shown(); track each.what) {
        <p [class.soft]="!each.needed">
          <span>{{ steps[each.what].says(each.count) }}</span>
          <a class="link" [routerLink]="steps[each.what].path" [queryParams]="steps[each.what].query ?? {}">{{
            steps[each.what].step
          }}</a>
        </p>
      }
    </section>
  }`,
  styles: `
    section {
      padding: 6px 24px 12px;
    }
    h2 {
      font: 600 16px var(--serif);
      margin: 6px 0;
    }
    p {
      display: flex;
      justify-content: space-between;
      gap: 20px;
      max-width: 720px;
      padding: 6px 0;
      border-top: 1px solid var(--rule);
    }
    .soft {
      color: var(--ink-soft);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MissingSteps {
  private readonly session = inject(Session);
  private readonly api = inject(Api);
  protected readonly steps = STEPS;
  private readonly rows = toSignal(
    merge(inject(LiveEvents).doing('keepList'), inject(LiveEvents).doing('confirmOrder')).pipe(
      debounceTime(300),
      startWith(null),
      switchMap(() => this.api.call(contract.missing).pipe(catchError(() => of({ rows: [] as Missing[] })))),
    ),
    { initialValue: { rows: [] as Missing[] } },
  );
  /** Only whoever keeps the lists, and only until the first order is taken. */
  protected readonly shown = computed(() => {
    const { rows } = this.rows();
    const begins = rows.some(({ needed }) => needed);
    return this.session.may('lists') && begins ? rows : [];
  });
}
