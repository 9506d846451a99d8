import { ChangeDetectionStrategy, Component, computed, effect, inject, input } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { Router, RouterLink } from '@angular/router';
import { dec, monthText } from '@core/kernel';
import { Session } from '../access';
import { Notices } from '../kit/act/notices';
import { Refusals } from '../kit/act/refusals';
import { Sheets } from '../kit/act/sheet';
import { pathOf } from '../kit/documents';
import { counted, day, money } from '../kit/formats';
import { liveDocument } from '../kit/live/live';
import { CountCommissionSheet } from './count-sheet';
import { Earnings } from './earnings';
import { MakeStatementSheet, type MakeData } from './make-sheet';
import { Commission } from './service';

/** What sales persons earn: what is on no statement yet, month by month, and the statements. // S12 */
@Component({
  selector: 'k-commission',
  imports: [Earnings, Refusals, RouterLink],
  templateUrl: './commission.html',
  styleUrl: './commission.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CommissionPage {
  private readonly commission = inject(Commission);
  private readonly session = inject(Session);
  private readonly sheets = inject(Sheets);
  private readonly notices = inject(Notices);
  private readonly router = inject(Router);
  /** Whose, by the address; one’s own where none is named. */
  readonly person = input<string>();
  private readonly asked = computed(() => (this.person() ? Number(this.person()) : null));
  protected readonly read = liveDocument(
    this.asked,
    (person) => this.commission.of(person),
    ({ kind }) => kind === 'CS' || kind === 'CI' || kind === 'CN' || kind === 'PY' || kind === 'SO',
  );
  protected readonly shown = computed(() => this.read.state().value);
  protected readonly sub = computed(() => {
    const shown = this.shown();
    if (!shown) return '';
    return `${shown.currency} ${this.money(shown.openAmount)} of ${shown.person.name} on no statement yet`;
  });
  /** The months as bars, against the largest. */
  protected readonly months = computed(() => {
    const months = this.shown()?.months ?? [];
    const most = Math.max(1, ...months.map(({ amount }) => dec(amount).abs().toNumber()));
    return months.map(({ month, amount }) => ({
      month: monthText(month),
      amount: this.money(amount),
      width: (dec(amount).abs().toNumber() / most) * 100,
      back: dec(amount).lt(0),
    }));
  });

  constructor() {
    const title = inject(Title);
    effect(() => title.setTitle('Commission · Kampong'));
  }

  protected choose(id: string): void {
    void this.router.navigate([], { queryParams: { person: id }, replaceUrl: true });
  }

  protected make(): void {
    const { person, currency } = this.shown()!;
    this.sheets.open<MakeData>(MakeStatementSheet, { person, currency }).subscribe((done) => {
      const [made] = done?.made ?? [];
      if (made) void this.notices.showAndGo('Made:', made);
    });
  }

  protected count(): void {
    this.sheets.open(CountCommissionSheet, { currency: this.shown()!.currency }).subscribe((done) => {
      if (!done) return;
      this.notices.show('Commission is reckoned again.');
      this.read.reload();
    });
  }

  protected readonly money = (value: string) => money(value, this.shown()?.currency ?? 'MYR');
  protected readonly day = (value: string) => day(value, this.session.workDate());
  protected readonly counted = counted;
  protected readonly pathOf = pathOf;
}
