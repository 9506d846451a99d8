import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { Title } from '@angular/platform-browser';
import { RouterLink } from '@angular/router';
import { switchMap, tap } from 'rxjs/operators';
import { dec } from '@core/kernel';
import { Session } from '../access';
import { day, money } from '../kit/formats';
import { Sisters, type Books } from './service';

type Side = Books['bought'];

const WHY: Record<Side['rows'][number]['why'], string> = {
  same: '',
  'not-taken': 'waits in the tray of who buys',
  returned: 'was returned',
  'missing-there': 'the seller knows of no such invoice that is owed',
  'missing-here': 'is not entered, or is paid, where it was bought',
  amount: 'another amount is owed: a payment or a part of it is missing at one of both',
  currency: 'is in another currency there',
};

/** What each says is owed, two pages of one book, row level with row; what has no twin says why. // X5 */
@Component({
  selector: 'k-reconciliation',
  imports: [RouterLink],
  templateUrl: './reconciliation.html',
  styleUrl: './reconciliation.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ReconciliationPage {
  private readonly sisters = inject(Sisters);
  private readonly title = inject(Title);
  protected readonly session = inject(Session);
  readonly id = input.required<string>();
  protected readonly books = toSignal(
    toObservable(this.id).pipe(
      switchMap((id) => this.sisters.books(Number(id))),
      tap(({ sister }) => this.title.setTitle(`Books with ${sister.name} · Kampong`)),
    ),
  );
  protected readonly sides = computed(() => {
    const books = this.books();
    if (!books) return [];
    const { sister, bought, sold } = books;
    const us = this.session.company()?.name ?? '';
    return [
      { head: `What we bought of ${sister.name}`, seller: sister.name, buyer: us, side: bought },
      { head: `What ${sister.name} bought of us`, seller: us, buyer: sister.name, side: sold },
    ].filter(({ side }) => side.rows.length > 0);
  });
  protected readonly differing = computed(() =>
    this.sides().reduce((count, { side }) => count + side.rows.filter(({ why }) => why !== 'same').length, 0),
  );
  protected readonly why = WHY;
  protected readonly day = (text: string | null) => (text === null ? '' : day(text, this.session.workDate()));
  protected readonly money = (text: string | null, currency: string) => (text === null ? '–' : money(text, currency));
  protected readonly none = (text: string) => dec(text).eq(0);
}
