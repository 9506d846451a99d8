import { DIALOG_DATA } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { addDays, dec, isDay, isDecimalText, sum } from '@core/kernel';
import { recurrenceDays } from '@core/recurrence';
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

const EVERY = [
  { value: 'FREQ=WEEKLY', label: 'every week' },
  { value: 'FREQ=WEEKLY;INTERVAL=2', label: 'every two weeks' },
  { value: 'FREQ=MONTHLY', label: 'every month' },
  { value: 'FREQ=MONTHLY;INTERVAL=2', label: 'every two months' },
  { value: 'FREQ=MONTHLY;INTERVAL=3', label: 'every three months' },
];

/** What is expected to be called off when, line by line: dates typed or repeated, each to be skipped. // A7 */
@Component({
  selector: 'k-plan-sheet',
  imports: [ChoiceField, DayField, NumberField, Sheet, TextField],
  templateUrl: './plan-sheet.html',
  styles: `
    .repeat {
      display: grid;
      grid-template-columns: 1fr 110px 1fr 1fr auto;
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
  protected readonly every = EVERY;
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
  protected readonly rule = signal(EVERY[2]!.value);
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
  /** The dates the recurrence would add; null where it cannot be read. */
  private readonly repeated = computed(() => {
    const [from, until] = [this.from(), this.until()];
    return from && until && isDay(from) && isDay(until) ? recurrenceDays(this.rule(), from, until) : null;
  });
  protected readonly canRepeat = computed(
    () => isDecimalText(this.amount(), 'quantity') && (this.repeated()?.length ?? 0) > 0,
  );
  protected readonly repeatWords = computed(() => {
    const days = this.repeated();
    if (!days) return 'Give both days; a plan holds at most 520 dates.';
    if (days.length === 0) return 'No date falls into that time.';
    return `${days.length} ${days.length === 1 ? 'date' : 'dates'}, the last ${day(days.at(-1)!, this.workDate())}.`;
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
        .map((each) => ({ day: each, quantity: this.amount(), skipped: false, rule: this.rule(), rest: '', made: '' }));
      return [...calls, ...added].sort((a, b) => (a.day ?? '').localeCompare(b.day ?? ''));
    });
  }
}
