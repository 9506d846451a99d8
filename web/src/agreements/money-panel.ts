import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { RouterLink } from '@angular/router';
import { reminderWords } from '@core/agreements';
import { dec, share } from '@core/kernel';
import { Session } from '../access';
import { refusalsOf } from '../kit/act/api';
import { SmallBeads } from '../kit/charts/bead';
import { pathOf } from '../kit/documents';
import { day, money, quantity } from '../kit/formats';
import { Notices } from '../kit/act/notices';
import { Agreements, type AgreementSheet } from './service';

/** What an agreement holds beside its lines: rebate, money paid ahead, reminders, and how it was revised. // A9 A10 A12 A15 */
@Component({
  selector: 'k-money-panel',
  imports: [RouterLink, SmallBeads],
  template: `@if (sheet().side === 'selling') {
      <section>
        <h3>Rebate</h3>
        @if (sheet().rebateNow; as now) {
          <p>
            <b>{{ sheet().currency }} {{ money(beyond() ? '0' : owed()) }} owed</b>, {{ baseWords() }}
          </p>
          <table class="small">
            <tbody>
              @for (tier of tiers(); track tier.from) {
                <tr>
                  <td><k-beads [beads]="[{ label: 'Reached', share: tier.share }]" /></td>
                  <td>from {{ tier.from }}</td>
                  <td class="num">{{ tier.rate }}</td>
                </tr>
              }
            </tbody>
          </table>
          @if (now.coming; as coming) {
            <p class="faint">{{ missing() }} to the next tier.</p>
          }
          @if (canSettle()) {
            <button type="button" class="act" (click)="settle.emit()">Settle it…</button>
          } @else if (beyond(); as amount) {
            <p class="need">{{ sheet().currency }} {{ money(amount) }} more was settled than is owed.</p>
            <button type="button" class="act" (click)="claim.emit()">Claim it back…</button>
          }
        } @else {
          <p class="faint">None is agreed. Tiers are part of the terms: revise them.</p>
        }
      </section>
      <section>
        <h3>Paid ahead</h3>
        @for (prepayment of sheet().prepayments; track prepayment.document.id) {
          <p>
            <a class="link" [routerLink]="pathOf(prepayment.document)">{{ prepayment.document.number }}</a>
            {{ day(prepayment.takenOn) }}, {{ money(prepayment.left) }} left of {{ money(prepayment.amount) }}
            {{ prepayment.lineNo === null ? '' : '· for line ' + prepayment.lineNo }}
          </p>
        } @empty {
          <p class="faint">Nothing. What is paid ahead is drawn by invoices of this agreement by itself.</p>
        }
        @if (alive()) {
          <button type="button" class="act" (click)="prepay.emit()">Take a prepayment…</button>
        }
        @if (sheet().shortfall; as draft) {
          <h3>Shortfall</h3>
          <p>
            {{ sheet().currency }} {{ money(draft.net) }},
            {{ draft.state === 'draft' ? 'not charged yet' : draft.state }}
          </p>
          @if (draft.state === 'draft') {
            <button type="button" class="act" (click)="shortfall.emit()">Charge it…</button>
          }
        }
      </section>
    }
    <section>
      <h3>Reminders</h3>
      @for (reminder of sheet().reminders; track reminder.kind + reminder.at) {
        <p>
          {{ words(reminder) }}:
          @if (reminder.handledOn) {
            <span class="faint">seen to {{ day(reminder.handledOn) }}</span>
          } @else if (reminder.firedOn) {
            <span class="need">since {{ day(reminder.firedOn) }}</span>
            <button type="button" class="act" (click)="handle(reminder)">Seen to</button>
          } @else {
            <span class="faint">waiting</span>
          }
        </p>
      } @empty {
        <p class="faint">None is set.</p>
      }
    </section>
    <section>
      <h3>Revisions</h3>
      @for (revision of sheet().revisions; track revision.revision) {
        <p>
          <b>{{ revision.revision }}</b>, {{ day(revision.revisedOn) }}, {{ revision.person }}: {{ revision.reason
          }}{{ revision.repriced ? ' · ' + revision.repriced + ' open lines repriced' : '' }}
        </p>
        <ul>
          @for (change of revision.changes; track change.what) {
            <li>{{ change.what }}: {{ change.was }} → {{ change.is }}</li>
          }
        </ul>
      } @empty {
        <p class="faint">As it was approved.</p>
      }
    </section>`,
  styles: `
    :host {
      display: grid;
      grid-auto-flow: column;
      grid-auto-columns: minmax(0, 1fr);
      gap: 30px;
    }
    h3 {
      font: 600 14px var(--serif);
      margin-bottom: 2px;
    }
    p {
      margin: 0 0 3px;
    }
    table.small td {
      height: 23px;
    }
    ul {
      margin: 0 0 6px;
      padding-left: 16px;
      color: var(--ink-soft);
    }
    .act {
      margin-left: -10px;
    }
    p .act {
      margin: -4px 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MoneyPanel {
  private readonly agreements = inject(Agreements);
  private readonly notices = inject(Notices);
  private readonly workDate = inject(Session).workDate;
  readonly sheet = input.required<AgreementSheet>();
  readonly settle = output<void>();
  readonly claim = output<void>();
  readonly prepay = output<void>();
  readonly shortfall = output<void>();
  readonly changed = output<void>();
  protected readonly alive = computed(() => ['in-force', 'paused'].includes(this.sheet().state));
  protected readonly owed = computed(() => {
    const now = this.sheet().rebateNow!;
    return dec(now.accrued).minus(now.settled).toFixed();
  });
  protected readonly canSettle = computed(() => dec(this.owed()).gt(0));
  /** What was settled beyond what is owed; empty where nothing was. */
  protected readonly beyond = computed(() => (dec(this.owed()).lt(0) ? dec(this.owed()).neg().toFixed() : ''));
  private readonly base = computed(() => {
    const { rebate, rebateNow } = this.sheet();
    return rebate.by === 'value' ? rebateNow!.value : rebateNow!.quantity;
  });
  private shown(text: string): string {
    return this.sheet().rebate.by === 'value' ? this.money(text) : quantity(text);
  }
  protected readonly baseWords = computed(() => {
    const { rebate, rebateNow } = this.sheet();
    const what = rebate.by === 'value' ? 'invoiced in the term' : 'units invoiced in the term';
    const settled = dec(rebateNow!.settled).gt(0) ? `, ${this.money(rebateNow!.settled)} settled` : '';
    return `on ${this.shown(this.base())} ${what}${settled}`;
  });
  protected readonly tiers = computed(() => {
    const { rebate } = this.sheet();
    return rebate.tiers.map((tier) => ({
      from: this.shown(tier.from),
      rate: rebate.by === 'value' ? `${tier.rate} %` : `${tier.rate} each`,
      share: tier.from === '0' ? 1 : share(this.base(), tier.from),
    }));
  });
  protected readonly missing = computed(() => this.shown(this.sheet().rebateNow?.coming?.missing ?? '0'));
  protected readonly money = (text: string) => money(text, this.sheet().currency);
  protected readonly day = (value: string) => day(value, this.workDate());
  protected readonly words = reminderWords;
  protected readonly pathOf = pathOf;

  protected handle({ kind, at }: AgreementSheet['reminders'][number]): void {
    this.agreements.handleReminder(this.sheet().id, kind, at).subscribe({
      next: () => this.changed.emit(),
      error: (error: unknown) => this.notices.show(refusalsOf(error)[0]?.sentence ?? ''),
    });
  }
}
