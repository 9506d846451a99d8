import { DIALOG_DATA, DialogRef } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { of } from 'rxjs';
import { catchError, debounceTime, map, startWith, switchMap } from 'rxjs/operators';
import { readPastedLines, type PastedLine } from '@core/typed';
import { Session } from '../access';
import { counted, day, price, quantity } from '../kit/formats';
import { Sheet } from '../kit/act/sheet';
import { Orders, type ItemChoice } from './service';
import { blankLine, ofItem, type TypedLine } from './typed';

export interface PasteData {
  customerId: number | null;
  currency: string;
}

type Named = ReadonlyMap<string, ItemChoice>;

/** Rows pasted from a spreadsheet as lines of the order: each is read and checked by itself; the good ones are taken. // G4 */
@Component({
  selector: 'k-paste-sheet',
  imports: [Sheet],
  template: `<k-sheet
    head="Paste lines"
    sub="An item and a quantity; a unit, a ship date and a price where you have them"
    [act]="act()"
    [busy]="good().length === 0"
    (done)="take()"
  >
    <label for="pasted">Rows from a spreadsheet</label>
    <textarea
      id="pasted"
      rows="6"
      spellcheck="false"
      placeholder="FC-10&#9;4&#9;box&#9;11/3"
      [value]="text()"
      (input)="text.set($any($event.target).value)"
    ></textarea>
    @if (rows().length > 0) {
      <table class="small">
        <thead>
          <tr>
            <th class="num">Row</th>
            <th>Item</th>
            <th></th>
            <th class="num">Quantity</th>
            <th>Unit</th>
            <th>Ship on</th>
            <th class="num">Price</th>
          </tr>
        </thead>
        <tbody>
          @for (row of rows(); track row.row) {
            <tr [class.bad]="row.problem">
              <td class="num faint">{{ row.row }}</td>
              <td>{{ row.item }}</td>
              <td class="what">{{ row.problem || row.name }}</td>
              <td class="num">{{ row.shownQuantity }}</td>
              <td>{{ row.unit }}</td>
              <td>{{ row.day ? day(row.day) : '' }}</td>
              <td class="num">{{ row.price ? price(row.price) : '' }}</td>
            </tr>
          }
        </tbody>
      </table>
    }
    <span effect>{{ effect() }}</span>
  </k-sheet>`,
  styles: `
    label {
      font-size: 13px;
      color: var(--ink-soft);
    }
    textarea {
      display: block;
      width: 100%;
      margin: 2px 0 14px;
      padding: 8px 10px;
      font: inherit;
      font-variant-numeric: tabular-nums;
      color: var(--ink);
      background: var(--paper-lift);
      border: 1px solid var(--rule-strong);
      border-radius: 3px;
      resize: vertical;
    }
    table {
      width: 100%;
    }
    .bad .what {
      color: var(--brick);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PasteSheet {
  private readonly data = inject<PasteData>(DIALOG_DATA);
  private readonly ref = inject(DialogRef<TypedLine[]>);
  private readonly orders = inject(Orders);
  private readonly workDate = inject(Session).workDate;
  protected readonly text = signal('');
  private readonly read = computed(() => readPastedLines(this.text(), this.workDate()).slice(0, 300));
  private readonly numbers = computed(() =>
    [
      ...new Set(
        this.read()
          .filter((row) => row.problem === '')
          .map((row) => row.item),
      ),
    ].join('\n'),
  );
  /** Items by the number that was pasted; null while they are looked up. */
  private readonly named = toSignal(
    toObservable(this.numbers).pipe(
      debounceTime(150),
      switchMap((numbers) =>
        (numbers === '' ? of([]) : this.orders.named(numbers.split('\n'), this.data.customerId)).pipe(
          map((rows): Named | 'away' => new Map(rows.map(({ asked, item }) => [asked.toLowerCase(), item]))),
          catchError(() => of('away' as const)),
          startWith(null),
        ),
      ),
    ),
    { initialValue: null },
  );

  protected readonly rows = computed(() =>
    this.read().map((row) => {
      const named = this.named();
      const item = named instanceof Map ? named.get(row.item.toLowerCase()) : undefined;
      const problem = row.problem || this.problemOf(row, named, item);
      const shownQuantity = row.problem ? row.quantity : quantity(row.quantity);
      return { ...row, problem, choice: item, name: item?.name ?? '', shownQuantity };
    }),
  );

  private problemOf(row: PastedLine, named: Named | 'away' | null, item: ItemChoice | undefined): string {
    if (named === null) return '';
    if (named === 'away') return 'items cannot be looked up just now';
    if (!item) return 'no item of ours, or of theirs, has this number';
    const units = item.units.map(({ unit }) => unit);
    const known = row.unit === '' || units.some((unit) => unit.toLowerCase() === row.unit.toLowerCase());
    return known ? '' : `not sold by ${row.unit}; give ${units.join(' or ')}`;
  }

  protected readonly good = computed(() => this.rows().filter((row) => row.problem === '' && row.choice));
  protected readonly effect = computed(() => {
    const bad = this.rows().filter((row) => row.problem !== '').length;
    return bad === 0
      ? ''
      : `${counted(bad, 'row')} cannot be taken: mend ${bad === 1 ? 'it' : 'them'} above, or take the good ones`;
  });
  protected readonly act = computed(() => `Add ${counted(this.good().length, 'line')}`);

  protected take(): void {
    const lines = this.good().map((row): TypedLine => {
      const blank = blankLine(this.workDate());
      const choice: ItemChoice = row.choice!;
      const unit = choice.units.find((each) => each.unit.toLowerCase() === row.unit.toLowerCase())?.unit;
      return {
        ...blank,
        ...ofItem(choice),
        quantity: row.quantity,
        shipDate: row.day ?? blank.shipDate,
        dayOpen: row.day === null || row.day === undefined,
        ...(unit ? { unit } : {}),
        ...(row.price ? { price: row.price, agreementLineId: null } : {}),
      };
    });
    if (lines.length > 0) this.ref.close(lines);
  }

  protected readonly price = (value: string) => price(value, this.data.currency);
  protected readonly day = (value: string) => day(value, this.workDate());
}
