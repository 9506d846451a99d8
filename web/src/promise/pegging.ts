import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { of } from 'rxjs';
import type { DocumentKind, DocumentRef } from '@core/kernel';
import { Session } from '../access';
import { pathOf } from '../kit/documents';
import { day, quantity } from '../kit/formats';
import { liveDocument } from '../kit/live/live';
import { Promises, type PegRow } from './service';

const OWN: Record<string, string> = { stock: 'what is on hand', missing: 'nothing yet', safety: 'the safety stock' };

/** Whom a document serves, up to the customer, and what serves it, all the way down. // T11 */
@Component({
  selector: 'k-pegging',
  imports: [RouterLink],
  template: `<div class="columns">
    @for (side of [...sides(), ...ends()]; track side.head) {
      <section>
        <h3>{{ side.head }}</h3>
        <table class="small">
          <tbody>
            @for (row of side.rows; track $index) {
              <tr>
                <td [style.padding-left.px]="8 + row.depth * 18">
                  @if (named(row); as name) {
                    <span [class.need]="row.kind === 'missing'">{{ name }}</span>
                  } @else if (side.there) {
                    {{ row.number }}
                  } @else {
                    <a class="link" [routerLink]="pathTo(row)">{{ row.number }}</a>
                  }
                  {{ row.party }}
                </td>
                <td>{{ row.item?.number }}</td>
                <td class="num">{{ number(row.quantity) }}</td>
                <td>{{ row.day ? day(row.day) : '' }}</td>
                <td class="faint">{{ steps(row) }}</td>
                <td class="faint">{{ row.held ? 'held for it' : '' }}</td>
              </tr>
            } @empty {
              <tr>
                <td class="faint">{{ side.none }}</td>
              </tr>
            }
          </tbody>
        </table>
      </section>
    }
  </div>`,
  styles: `
    .columns {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 32px;
    }
    h3 {
      font: 600 14px var(--serif);
      margin-bottom: 2px;
    }
    table.small td {
      height: 25px;
    }
    .need {
      color: var(--ochre);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PeggingPanel {
  private readonly promises = inject(Promises);
  private readonly session = inject(Session);
  readonly document = input.required<DocumentRef>();
  private readonly read = liveDocument(
    this.document,
    (document) => this.promises.pegging(document.kind, document.id),
    ({ kind }) => ['SO', 'PO', 'PR', 'AS', 'PL', 'RC', 'SH', 'WR'].includes(kind),
  );
  protected readonly sides = computed(() => {
    const found = this.read.state().value;
    if (!found) return [];
    const down = {
      head: 'What serves it',
      there: false,
      rows: found.down,
      none: this.document().kind === 'SO' ? 'Nothing of it waits for anything.' : 'Nothing goes into it.',
    };
    if (this.document().kind === 'SO') return [down];
    return [{ head: 'Whom it serves', there: false, rows: found.up, none: 'Nobody yet; it goes to our stock.' }, down];
  });
  /** Where it goes on at sister companies: all the way for who works there too. // X4 */
  private readonly beyond = liveDocument(
    computed(() => ({ document: this.document(), sisters: this.session.current()?.sisters === true })),
    ({ document, sisters }) =>
      sisters && (document.kind === 'SO' || document.kind === 'PO')
        ? this.promises.peggingBeyond(document.kind, document.id)
        : of(null),
    ({ kind }) => ['SO', 'PO', 'RC', 'SH'].includes(kind),
  );
  protected readonly ends = computed(() =>
    (this.beyond.state().value?.ends ?? []).map(({ company, number, side, rows }) => ({
      head:
        side === 'down'
          ? `What serves it at ${company.name}, ${number}`
          : `Whom it serves at ${company.name}, ${number}`,
      // What is hers leads nowhere from here.
      there: true,
      rows: rows ?? [],
      none:
        rows === null
          ? `It goes on there, where you do not work.`
          : side === 'down'
            ? 'Nothing of it waits for anything.'
            : 'Nobody yet; it goes to their stock.',
    })),
  );
  /** How far what is made is: what came of it, and the operation it stands at. */
  protected steps({ work }: PegRow): string {
    if (!work) return '';
    const made = work.finished === '0' ? '' : `${quantity(work.finished)} of ${quantity(work.quantity)} made`;
    const at =
      work.operation && `${work.operation.name} ${quantity(work.operation.done)} of ${quantity(work.quantity)}`;
    if (work.state !== 'running') return made || work.state;
    return [made, at].filter(Boolean).join(', ') || 'begun';
  }

  protected readonly named = (row: PegRow) => OWN[row.kind] ?? '';
  protected readonly pathTo = (row: PegRow) => pathOf({ kind: row.kind as DocumentKind, id: row.id });
  protected readonly number = quantity;
  protected readonly day = (value: string) => day(value, this.session.workDate());
}
