import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import type * as z from 'zod';
import type { CustomerSheet } from '@api/parties';
import { Session } from '../access';
import { pathOf } from '../kit/documents';
import { day, money } from '../kit/formats';

/** The open items that make a balance; their sum is the balance. */
@Component({
  selector: 'k-open-items',
  imports: [RouterLink],
  template: `<table class="small">
    <thead>
      <tr>
        <th>Invoice</th>
        <th>Order</th>
        <th>Due</th>
        <th class="num">Amount</th>
        <th class="num">Settled</th>
        <th class="num">Owed</th>
      </tr>
    </thead>
    <tbody>
      @for (item of items(); track item.invoice.id) {
        <tr>
          <td>
            <a class="link" [routerLink]="pathOf(item.invoice)">{{ item.invoice.number }}</a>
          </td>
          <td>
            <a class="link" [routerLink]="pathOf(item.source)">{{ item.source.number }}</a>
          </td>
          <td>
            <span [class.need]="item.dueDate < workDate()">{{ day(item.dueDate) }}</span>
          </td>
          <td class="num">{{ money(item.amount) }}</td>
          <td class="num">{{ money(item.settled) }}</td>
          <td class="num">{{ money(item.owed) }}</td>
        </tr>
      } @empty {
        <tr>
          <td colspan="6" class="faint">Nothing is open.</td>
        </tr>
      }
      <tr class="sum all">
        <td colspan="5" class="num">Balance, {{ currency() }}</td>
        <td class="num">{{ money(balance()) }}</td>
      </tr>
    </tbody>
  </table>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OpenItems {
  readonly items = input.required<z.infer<typeof CustomerSheet>['openItems']>();
  readonly balance = input.required<string>();
  readonly currency = input.required<string>();
  protected readonly workDate = inject(Session).workDate;
  protected readonly pathOf = pathOf;
  protected readonly money = (value: string) => money(value, this.currency());
  protected readonly day = (value: string) => day(value, this.workDate());
}
