import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { addDays, dec, isDay, isDecimalText, sum } from '@core/kernel';
import { onLastDays, readRecurrence, recurrenceDays, scarceDay } from '@core/recurrence';
import * as contract from '@api/agreements';
import { Session } from '../access';
import { ChoiceField, DayField, NumberField, TextField } from '../kit/fields';
import { counted, day, quantity } from '../kit/formats';
import { ActForm, Sheet } from '../kit/act/sheet';
import { coversName, coversText } from './agreement-columns';
import type { AgreementSheet } from './service';

interface TypedCall {
  day: string | null;
  quantity: string;
  skipped: boolean;
  rule: string;
  /** What no release has used up, as it was read; empty for a call typed now. */
  rest: string;
  /** The order it was made into. */
  made: string;
}

const LIKE =
  'Write it like: every second Tuesday; last working day of the month; the 15th until 30 June; every month, 10 times.';

/** What is expected to be called off when, line by line: dates typed or repeated, each to be skipped. // A7 */
@Component({
  selector: 'k-plan-sheet',
  imports: [ChoiceField, DayField, NumberField, Sheet, TextField],
  templateUrl: './plan-sheet.html',
  styles: `
    .repeat {
      display: grid;
      grid-template-columns: 1.6fr 100px 1fr 1fr auto;
      gap: 12px;
      align-items: end;
      margin-bottom: 6px;
    }
    .line {
      display: grid;
      grid-template-columns: 1.2fr 1fr 1fr;
      gap: 12px;
      margin-bottom: 14px;
    }
    p {
      margin-bottom: 14px;
    }
    td.day {
      width: 150px;
    }
    td.quantity {
      width: 110px;
    }
    .skipped {
      opacity: 0.6;
    }
    td .error {
      color: var(--brick);
      font-size: 12px;
      font-weight: 600;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PlanSheet {
  protected readonly sheet = inject<AgreementSheet>(DIALOG_DATA);
  protected readonly workDate = inject(Session).workDate;
  protected readonly lineId = signal(String(this.sheet.lines[0]?.id ?? ''));
  protected readonly lines = this.sheet.lines.map((line) => ({
    value: String(line.id),
    label: `${coversText(line)}, ${coversName(line)}`,
  }));
  protected readonly shipToId = signal(String(this.sheet.planShipToId ?? this.sheet.shipTos[0]?.id ?? ''));
  protected readonly reference = signal(this.sheet.planReference);
  protected readonly shipTos = this.sheet.shipTos.map((shipTo) => ({
    value: String(shipTo.id),
    label: `${shipTo.label}, ${shipTo.town}`,
  }));
  protected readonly releaseWords = this.sheet.releaseAhead
    ? `Each is released by itself ${counted(Number(this.sheet.releaseAhead), 'day')} ahead.`
    : 'Released by hand; to have it done some days ahead, revise the agreement.';
  private readonly plans = signal(
    new Map(
      this.sheet.lines.map((line) => [
        line.id,
        line.calls.map((call): TypedCall => ({ ...call, made: call.made?.number ?? '' })),
      ]),
    ),
  );
  /** As it is said: `every month`, `last working day of the month`, or a rule of RFC 5545. */
  protected readonly every = signal('every month');
  /** Months that have no such day take their last one. */
  protected readonly lastDays = signal(false);
  protected readonly amount = signal('');
  protected readonly from = signal<string | null>(this.firstFree());
  protected readonly until = signal<string | null>(this.sheet.lastDay);

  private firstFree(): string {
    const tomorrow = addDays(this.workDate(), 1);
    return tomorrow < this.sheet.firstDay ? this.sheet.firstDay : tomorrow;
  }

  private readonly input = computed(() => ({
    id: this.sheet.id,
    version: this.sheet.version,
    ...(this.sheet.side === 'selling'
      ? { shipToId: this.shipToId() ? Number(this.shipToId()) : null, customerReference: this.reference() }
      : {}),
    lines: [...this.plans()].map(([agreementLineId, calls]) => ({
      agreementLineId,
      calls: calls.map(({ rest: _rest, made: _made, ...call }) => call),
    })),
  }));
  protected readonly form = new ActForm(contract.savePlan, this.input);
  private readonly at = computed(() => this.sheet.lines.findIndex((line) => String(line.id) === this.lineId()));
  protected readonly line = computed(() => this.sheet.lines[this.at()]!);
  protected readonly calls = computed(() => {
    const calls = this.plans().get(this.line().id) ?? [];
    return calls.map((call, index) => ({
      ...call,
      used:
        call.rest === '' || call.skipped
          ? ''
          : quantity(
              dec(call.quantity || '0')
                .minus(call.rest)
                .toFixed(),
            ),
      dayRefused: this.form.at(`lines.${this.at()}.calls.${index}.day`),
      quantityRefused: this.form.at(`lines.${this.at()}.calls.${index}.quantity`, call.quantity !== ''),
    }));
  });
  private readonly said = computed(() => readRecurrence(this.every(), this.workDate()));
  /** The day some months do not have. */
  private readonly scarce = computed(() => {
    const [said, from] = [this.said(), this.from()];
    return said && from && isDay(from) ? scarceDay(said, from) : null;
  });
  private readonly rule = computed(() => {
    const [said, scarce] = [this.said(), this.scarce()];
    return said && scarce !== null && this.lastDays() ? onLastDays(said, scarce) : said;
  });
  /** The dates the recurrence would add; null where it cannot be read. */
  private readonly repeated = computed(() => this.daysOf(this.rule()));
  private daysOf(rule: string | null, from = this.from()): string[] | null {
    const until = this.until();
    return rule && from && until && isDay(from) && isDay(until) ? recurrenceDays(rule, from, until) : null;
  }
  protected readonly canRepeat = computed(
    () => isDecimalText(this.amount(), 'quantity') && (this.repeated()?.length ?? 0) > 0,
  );
  protected readonly unread = computed(() => (this.said() === null ? LIKE : ''));
  protected readonly repeatWords = computed(() => {
    if (this.said() === null) return '';
    const days = this.repeated();
    if (!days) return 'Give both days; a plan holds at most 520 dates.';
    if (days.length === 0) return 'No date falls into that time.';
    return `${days.length} ${days.length === 1 ? 'date' : 'dates'}, the last ${day(days.at(-1)!, this.workDate())}.`;
  });
  /** Months between the dates that have no such day, in words; nothing where all have. */
  protected readonly scarceWords = computed(() => {
    const [said, scarce] = [this.said(), this.scarce()];
    if (!said || scarce === null) return '';
    const has = this.daysOf(said) ?? [];
    const plain = new Set(has.map((each) => each.slice(0, 7)));
    const without = (this.daysOf(onLastDays(said, scarce), has[0]) ?? []).map((each) => each.slice(0, 7));
    const months = without.filter((month) => !plain.has(month)).map(monthText);
    if (months.length === 0) return '';
    const [more, named] = [months.length - 4, months.slice(0, 4).join(', ')];
    return `No ${scarce}${scarce === 31 ? 'st' : 'th'} in ${named}${more > 0 ? ` and ${more} more` : ''}:`;
  });
  protected readonly total = computed(() => {
    const planned = (this.plans().get(this.line().id) ?? []).filter(
      (call) => !call.skipped && isDecimalText(call.quantity, 'quantity'),
    );
    return quantity(sum(planned.map((call) => dec(call.quantity))).toFixed());
  });
  protected readonly loose = computed(() => this.form.loose([/^lines\.\d+\.calls\.\d+\./]));
  protected readonly quantity = quantity;
  protected readonly coversText = coversText;

  private change(calls: (calls: TypedCall[]) => TypedCall[]): void {
    this.plans.update((plans) => new Map(plans).set(this.line().id, calls(plans.get(this.line().id) ?? [])));
  }

  protected set(index: number, change: Partial<TypedCall>): void {
    this.change((calls) => calls.map((call, at) => (at === index ? { ...call, ...change } : call)));
  }

  protected remove(index: number): void {
    this.change((calls) => calls.filter((_call, at) => at !== index));
  }

  /** One more date, a week after the last. */
  protected add(): void {
    this.change((calls) => {
      const last = calls.at(-1);
      const next = last?.day && isDay(last.day) ? addDays(last.day, 7) : this.firstFree();
      return [...calls, { day: next, quantity: last?.quantity ?? '', skipped: false, rule: '', rest: '', made: '' }];
    });
  }

  /** Adds the dates of the recurrence; a date that is planned already keeps what it has. */
  protected repeat(): void {
    const days = this.repeated() ?? [];
    this.change((calls) => {
      const known = new Set(calls.map((call) => call.day));
      const added = days
        .filter((each) => !known.has(each))
        .map((each) => ({
          day: each,
          quantity: this.amount(),
          skipped: false,
          rule: this.rule() ?? '',
          rest: '',
          made: '',
        }));
      return [...calls, ...added].sort((a, b) => (a.day ?? '').localeCompare(b.day ?? ''));
    });
  }
}

const monthText = (month: string) =>
  new Intl.DateTimeFormat('en-GB', { month: 'short', year: 'numeric', timeZone: 'UTC' }).format(
    new Date(`${month}-01`),
  );
