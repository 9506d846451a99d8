import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { dec, most, ZERO } from '@core/kernel';
import { pathOf } from '../kit/documents';
import { day, money } from '../kit/formats';
import type { CustomerDesk } from './service';

/** What is known of the customer while their order is typed: what they owe, may still order, and have on order. // S4 S5 */
@Component({
  selector: 'k-desk-strip',
  imports: [RouterLink],
  template: `<p>
    <span>Owes {{ amount(desk().balance) }}</span>
    <span>{{ amount(desk().onOrder) }} on order</span>
    <span [class.need]="spent()">{{ credit() }}</span>
    @for (permit of desk().permits; track permit.number) {
      <span [class.need]="permit.lastDay < soon()"
        >{{ permit.name }} {{ permit.number }} to {{ day(permit.lastDay) }}</span
      >
    }
    @for (order of desk().open; track order.document.id; let first = $first) {
      <span
        >{{ first ? 'open: ' : ''
        }}<a class="link" [routerLink]="pathOf(order.document)">{{ order.document.number }}</a>
        {{ order.state === 'draft' ? 'draft' : day(order.firstShipDate) }}</span
      >
    } @empty {
      <span>nothing open</span>
    }
    @if (desk().openCount > desk().open.length) {
      <span>and {{ desk().openCount - desk().open.length }} more</span>
    }
  </p>`,
  styles: `
    p {
      margin: 0 24px 8px;
      font-size: 13px;
      color: var(--ink-soft);
    }
    span + span::before {
      content: ' · ';
      color: var(--ink-faint);
    }
    .need {
      color: var(--ochre);
      font-weight: 600;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DeskStrip {
  readonly desk = input.required<CustomerDesk>();
  readonly workDate = input.required<string>();
  /** A permit that ends before this day is worth a look. */
  readonly soon = input.required<string>();

  private readonly left = computed(() => {
    const { creditLimit, balance, onOrder } = this.desk();
    return creditLimit === null ? null : dec(creditLimit).minus(balance).minus(onOrder);
  });
  protected readonly spent = computed(() => this.left()?.lte(0) ?? false);
  protected readonly credit = computed(() => {
    const left = this.left();
    if (left === null) return 'no credit limit';
    return `${this.amount(most(ZERO, left).toFixed())} of ${this.amount(this.desk().creditLimit!)} credit left`;
  });
  protected readonly amount = (value: string) => `${this.desk().currency} ${money(value, this.desk().currency)}`;
  protected readonly day = (value: string | null) => day(value, this.workDate());
  protected readonly pathOf = pathOf;
}
