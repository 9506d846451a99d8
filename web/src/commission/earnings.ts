import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { dec } from '@core/kernel';
import { Session } from '../access';
import { pathOf } from '../kit/documents';
import { day, money, quantity } from '../kit/formats';
import type { EarningShown } from './service';

const OF = { net: 'of', margin: 'of the margin' } as const;

/** What was earned, line by line, each with how it is reckoned. // S12 */
@Component({
  selector: 'k-earnings',
  imports: [RouterLink],
  template: `<table class="wide">
    <thead>
      <tr>
        <th>Day</th>
        <th>Invoice</th>
        <th>Customer</th>
        <th>For</th>
        <th>How it is reckoned</th>
        <th class="num">{{ currency() }}</th>
      </tr>
    </thead>
    <tbody>
      @for (line of lines(); track line.id) {
        <tr>
          <td>{{ day(line.day) }}</td>
          <td>
            <a class="link" [routerLink]="pathOf(line.invoice)">{{ line.invoice.number }}</a> of
            <a class="link" [routerLink]="pathOf(line.order)">{{ line.order.number }}</a>
          </td>
          <td>{{ line.customer.name }}</td>
          <td>{{ line.item.number }}</td>
          <td>{{ reckoned(line) }}</td>
          <td class="num" [class.back]="isBack(line)">{{ money(line.amount) }}</td>
        </tr>
      } @empty {
        <tr>
          <td colspan="6" class="faint">{{ empty() }}</td>
        </tr>
      }
    </tbody>
  </table>`,
  styles: `
    .back {
      color: var(--ochre);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Earnings {
  private readonly session = inject(Session);
  readonly lines = input.required<readonly EarningShown[]>();
  readonly currency = input.required<string>();
  readonly empty = input('');
  protected readonly reckoned = ({ perCent, of, base, share, at }: EarningShown) =>
    [
      `${quantity(perCent)} % ${OF[of]} ${money(base, this.currency())}`,
      dec(share).eq(100) ? '' : dec(share).eq(0) ? 'shared no more' : `a share of ${quantity(share)} %`,
      at === 'payment' ? 'as it is paid' : '',
    ]
      .filter((part) => part !== '')
      .join(', ');
  protected readonly isBack = ({ amount }: EarningShown) => dec(amount).lt(0);
  protected readonly money = (value: string) => money(value, this.currency());
  protected readonly day = (value: string) => day(value, this.session.workDate());
  protected readonly pathOf = pathOf;
}
