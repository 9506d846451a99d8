import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { Router, RouterLink } from '@angular/router';
import type * as z from 'zod';
import * as contract from '@api/ledger';
import { Session } from '../access';
import { Api } from '../kit/act/api';
import { Refusals } from '../kit/act/refusals';
import { pathOf } from '../kit/documents';
import { moment } from '../kit/formats';
import { LiveList } from '../kit/live/live';

type Row = z.infer<typeof contract.listChanges.out>['rows'][number];
interface Query {
  q?: string;
  person?: string;
  act?: string;
  days?: string;
}

const FILTERS = [
  { name: 'person', label: 'Who', hint: '' },
  { name: 'act', label: 'Did what', hint: 'confirm, lists kept …' },
  { name: 'q', label: 'Document', hint: 'SO-0012' },
  { name: 'days', label: 'Days', hint: '..-1, 1/3..5/3, fri' },
] as const;

/** The trail: who changed what, from what to what, by person, act, document and day. // U6 */
@Component({
  selector: 'k-trail-page',
  imports: [Refusals, RouterLink],
  template: `<div class="page">
    <div class="title">
      <h1><b>The trail</b><span>all that was done here; it is only added to, and sealed as it grows</span></h1>
      @if (session.may('companies')) {
        <a class="act" href="/api/archive.zip" download>All our data…</a>
      }
    </div>
    <div class="filters">
      @for (filter of filters; track filter.name) {
        <label
          >{{ filter.label }}
          <input
            type="search"
            [value]="query()[filter.name] ?? ''"
            [placeholder]="filter.hint"
            (change)="look(filter.name, $any($event.target).value)"
        /></label>
      }
    </div>
    <k-refusals [refusals]="list.refusals()" />
    <div class="rows" (scroll)="near($any($event.target))">
      @for (row of list.rows(); track row.id) {
        <div class="row">
          <details>
            <summary>
              <span class="when">{{ moment(row.at) }}</span> <b>{{ row.person }}</b> {{ row.act }}
            </summary>
            @for (field of row.fields; track $index) {
              <p>{{ field.what }}: {{ field.was || 'nothing' }} → {{ field.is || 'nothing' }}</p>
            }
            <code>{{ row.input }}</code>
          </details>
          <span>
            @for (document of row.documents.slice(0, 6); track $index) {
              <a class="link" [routerLink]="pathOf(document)">{{ document.number }}</a>
            }
            @if (row.documents.length > 6) {
              and {{ row.documents.length - 6 }} more
            }
            @if (row.reason) {
              <span class="faint">because {{ row.reason }}</span>
            }
          </span>
          <span class="faint">{{ row.origin }}</span>
        </div>
      } @empty {
        @if (!list.loading()) {
          <p class="empty">Nothing that was done fits.</p>
        }
      }
    </div>
  </div>`,
  styles: `
    .filters label {
      font-size: 12px;
      color: var(--ink-faint);
    }
    .filters input {
      display: block;
      width: 180px;
    }
    .rows {
      flex: 1;
      overflow: auto;
      padding: 4px 24px 24px;
    }
    .row {
      display: grid;
      grid-template-columns: minmax(0, 1fr) minmax(0, 340px) 110px;
      gap: 12px;
      padding: 5px 0;
      border-top: 1px solid var(--rule);
    }
    summary {
      cursor: pointer;
    }
    .when {
      display: inline-block;
      width: 130px;
    }
    .row .link {
      margin-right: 6px;
    }
    details p,
    details code {
      display: block;
      margin: 4px 0 4px 146px;
    }
    code {
      font-size: 12px;
      overflow-wrap: anywhere;
      color: var(--ink-soft);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TrailPage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly session = inject(Session);
  readonly q = input<string>();
  readonly person = input<string>();
  readonly act = input<string>();
  readonly days = input<string>();
  protected readonly filters = FILTERS;
  protected readonly query = computed<Query>(() => ({
    ...(this.q() ? { q: this.q()! } : {}),
    ...(this.person() ? { person: this.person()! } : {}),
    ...(this.act() ? { act: this.act()! } : {}),
    ...(this.days() ? { days: this.days()! } : {}),
  }));
  protected readonly list = new LiveList<Query, Row>(
    this.query,
    (query, cursor) => this.api.call(contract.listChanges, { query: { ...query, ...(cursor ? { cursor } : {}) } }),
    [],
  );
  protected readonly moment = moment;
  protected readonly pathOf = pathOf;

  constructor() {
    inject(Title).setTitle('The trail · Kampong');
  }

  protected look(name: string, text: string): void {
    void this.router.navigate([], { queryParams: { [name]: text.trim() || null }, queryParamsHandling: 'merge' });
  }

  protected near(box: HTMLElement): void {
    if (box.scrollTop + box.clientHeight > box.scrollHeight - 400) this.list.more();
  }
}
