import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { dec, inUnits, ZERO } from '@core/kernel';
import type { BuildUpStep, StepKind } from '@core/pricing';
import { money, price, quantity } from '../kit/formats';

const WORDS: Record<StepKind, string> = {
  agreement: 'Agreed',
  customer: 'Their own price',
  group: 'Their group’s price',
  list: 'List price',
  cost: 'Made of the market price',
  promotion: 'Promotion',
  'split-pack': 'Less than a full pack',
  freight: 'Freight to them',
  options: 'What was chosen for it',
  discount: 'Discount',
  typed: 'Typed instead',
};

export interface PricedLine {
  title: string;
  quantity: string;
  unit: string;
  steps: readonly BuildUpStep[];
  /** What one would cost without its agreement. */
  listPrice: string;
  agreed: boolean;
  reason: string;
  /** The day its price was found again as it shipped, and what it came to before. // R3 */
  shipped: { day: string; before: string } | null;
}

/** How a line's price came about, step by step, each drawn from where the one before it ended. // R4 */
@Component({
  selector: 'k-price-panel',
  template: `@if (line(); as line) {
      <div class="price">
        <table class="small">
          <thead>
            <tr>
              <th>Step</th>
              <th>From</th>
              <th class="num">For one</th>
              <th class="num">On the line</th>
              <th><span class="unseen">Drawn</span></th>
            </tr>
          </thead>
          <tbody>
            @for (row of rows(); track $index) {
              <tr>
                <td>{{ row.words }}</td>
                <td class="faint">{{ row.source }}</td>
                <td class="num">{{ row.each }}</td>
                <td class="num">{{ row.amount }}</td>
                <td class="drawn" aria-hidden="true">
                  <i [class.off]="row.off" [style.left.%]="row.from" [style.width.%]="row.width"></i>
                </td>
              </tr>
            } @empty {
              <tr>
                <td colspan="5" class="faint">
                  The steps stand here once there is a customer, an item and a quantity.
                </td>
              </tr>
            }
          </tbody>
          @if (rows().length > 0) {
            <tfoot>
              <tr>
                <td>{{ line.title }}</td>
                <td>{{ sold() }}</td>
                <td class="num">{{ each() }}</td>
                <td class="num">{{ total() }}</td>
                <td class="drawn" aria-hidden="true">
                  <i class="sum" [style.left.%]="0" [style.width.%]="sumWidth()"></i>
                </td>
              </tr>
            </tfoot>
          }
        </table>
        @if (line.agreed) {
          <p class="faint">Without the agreement one would be {{ currency() }} {{ list() }}.</p>
        }
        @if (line.shipped; as shipped) {
          <p class="faint">
            Found again as it shipped on {{ shipped.day }}; it was {{ currency() }} {{ shipped.before }} when it was
            ordered.
          </p>
        }
        @if (line.reason) {
          <p class="faint">For nothing: {{ line.reason }}.</p>
        }
      </div>
    } @else {
      <p class="faint">Here stands, of the line one is on, how its price came about.</p>
    }`,
  styles: `
    table {
      width: 100%;
    }
    .drawn {
      width: 38%;
      position: relative;
      padding: 0;
    }
    .drawn i {
      position: absolute;
      top: 6px;
      height: 12px;
      min-width: 2px;
      background: var(--deep);
      opacity: 0.75;
    }
    .drawn i.off {
      background: repeating-linear-gradient(135deg, var(--deep) 0 2px, transparent 2px 5px);
    }
    .drawn i.sum {
      opacity: 1;
    }
    tfoot td {
      font-weight: 600;
      border-top: 1px solid var(--rule-strong);
    }
    p {
      margin-top: 6px;
    }
    .unseen {
      position: absolute;
      clip-path: inset(50%);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PricePanel {
  readonly line = input.required<PricedLine | null>();
  readonly currency = input.required<string>();

  private readonly sums = computed(() => {
    let reached = ZERO;
    return (this.line()?.steps ?? []).map((step) => {
      const from = reached;
      reached = reached.plus(step.amount);
      return { step, from, to: reached };
    });
  });
  private readonly widest = computed(() =>
    this.sums().reduce((most, { to }) => Math.max(most, Math.abs(Number(to))), 0.01),
  );
  protected readonly rows = computed(() =>
    this.sums().map(({ step, from, to }) => {
      const [low, high] = [Number(from), Number(to)].sort((a, b) => a - b) as [number, number];
      return {
        words: WORDS[step.kind],
        source: step.source,
        each: this.forOne(step.amount),
        amount: money(step.amount, this.currency()),
        off: dec(step.amount).lt(0),
        from: (100 * low) / this.widest(),
        width: (100 * (high - low)) / this.widest(),
      };
    }),
  );
  private readonly amount = computed(() => this.sums().at(-1)?.to ?? ZERO);
  protected readonly total = computed(() => money(this.amount().toFixed(), this.currency()));
  protected readonly each = computed(() => this.forOne(this.amount().toFixed()));
  protected readonly sumWidth = computed(() => (100 * Number(this.amount())) / this.widest());
  protected readonly list = computed(() => price(this.line()!.listPrice, this.currency()));
  protected readonly sold = computed(() => inUnits(quantity(this.line()!.quantity), this.line()!.unit));

  /** The amount for one of the unit sold, to 4 places. */
  private forOne(amount: string): string {
    const of = dec(this.line()!.quantity);
    return of.lte(0) ? '' : price(dec(amount).div(of).round(4).toFixed(), this.currency());
  }
}
