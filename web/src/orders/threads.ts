import { ChangeDetectionStrategy, Component, computed, effect, inject, input } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { RouterLink } from '@angular/router';
import { forkJoin } from 'rxjs';
import { map } from 'rxjs/operators';
import * as supply from '@api/supply';
import { Session } from '../access';
import { Api } from '../kit/act/api';
import { pathOf } from '../kit/documents';
import { counted } from '../kit/formats';
import { liveDocument } from '../kit/live/live';
import { Refusals } from '../kit/act/refusals';
import { ThreadView } from '../kit/charts/thread';
import { Orders } from './service';

/** Every thread of one order, line by line, at an address of its own. */
@Component({
  selector: 'k-order-threads',
  imports: [Refusals, RouterLink, ThreadView],
  template: `<div class="page">
    @if (shown(); as all) {
      <div class="title">
        <h1>
          <b>{{ all.order.number }}</b> for {{ all.order.customer.name }}, line by line
          <span>{{ all.order.state }} · {{ counted(all.threads.length, 'line') }}</span>
        </h1>
        <a class="act" [routerLink]="pathOf({ kind: 'SO', id: all.order.id })">Back to the order</a>
      </div>
      <div class="threads" tabindex="0" role="region" aria-label="Threads of the order">
        @for (thread of all.threads; track thread.orderLineId) {
          <section>
            <h2>{{ thread.title }}</h2>
            <k-thread [thread]="thread" [workDate]="workDate()" />
          </section>
        }
      </div>
    } @else {
      <k-refusals [refusals]="loaded.state().refusals" />
    }
  </div>`,
  styles: `
    .threads {
      flex: 1;
      min-height: 0;
      overflow: auto;
      padding: 0 24px 24px;
    }
    section {
      border-top: 1px solid var(--rule);
      padding: 10px 0 16px;
    }
    h2 {
      font: 600 15px var(--serif);
      margin-bottom: 8px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OrderThreads {
  private readonly api = inject(Api);
  private readonly orders = inject(Orders);
  private readonly titles = inject(Title);
  readonly id = input.required<string>();
  protected readonly workDate = inject(Session).workDate;
  protected readonly loaded = liveDocument(
    this.id,
    (id) =>
      forkJoin({
        order: this.orders.open(Number(id)),
        threads: this.api
          .call(supply.threadsOfOrder, { params: { id: Number(id) } })
          .pipe(map(({ threads }) => threads)),
      }),
    (document, shown) =>
      (document.kind === 'SO' && document.id === shown?.order.id) ||
      (shown?.order.documents.some(
        (each) => each.document.kind === document.kind && each.document.id === document.id,
      ) ??
        false),
  );
  protected readonly shown = computed(() => this.loaded.state().value);
  protected readonly pathOf = pathOf;
  protected readonly counted = counted;

  constructor() {
    effect(() => this.titles.setTitle(`${this.shown()?.order.number ?? 'Threads'}, line by line · Kampong`));
  }
}
