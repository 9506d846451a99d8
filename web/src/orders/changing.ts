import { inject, signal } from '@angular/core';
import { Session } from '../access';
import type { DocumentAct } from '../kit/act/document-page';
import { keptDraft } from '../kit/act/drafts';
import { Notices } from '../kit/act/notices';
import { Sheets } from '../kit/act/sheet';
import { KeepChangeSheet, type KeepChangeData } from './keep-change-sheet';
import type { OrderDraft } from './order-acts';
import { Orders, type OrderSheet } from './service';
import { differs, sendable, type TypedOrder } from './typed';

/**
 * A confirmed order while it is changed: its lines are typed as those of a draft, and nothing is another before that is
 * kept with a reason. What is typed is kept in this browser, and comes back. // S8
 * To be made in an injection context.
 */
export class OrderChanging {
  private readonly orders = inject(Orders);
  private readonly session = inject(Session);
  private readonly sheets = inject(Sheets);
  private readonly notices = inject(Notices);
  private readonly begun = signal<number | null>(null);

  constructor(private readonly keptAs: () => string) {}

  /** Whether an order is being changed: begun here, or typed before and not kept yet. */
  is(sheet: Pick<OrderSheet, 'id' | 'state'> | null): boolean {
    if (sheet?.state !== 'confirmed' || !this.session.may('orders')) return false;
    return this.begun() === sheet.id || keptDraft<TypedOrder>(this.keptAs()) !== null;
  }

  begin(sheet: OrderSheet): void {
    this.begun.set(sheet.id);
  }

  /** What was typed is dropped, and the order shown as it is. */
  private over(draft: OrderDraft): void {
    draft.drop();
    this.begun.set(null);
    draft.typed.set(null);
  }

  /** Prices what is typed, as keeping it would. */
  readonly preview = (order: ReturnType<typeof sendable>) => this.orders.previewChange(this.changeOf(order));

  /** What can be done while it is changed. */
  acts(
    sheet: OrderSheet,
    draft: OrderDraft,
    { finishEditing, reload }: { finishEditing: () => void; reload: () => void },
  ): DocumentAct[] {
    return [
      {
        name: 'leave',
        label: 'Leave it as it was',
        does: () => this.over(draft),
      },
      {
        name: 'keep',
        label: 'Keep the change…',
        place: 'step',
        does: () => {
          finishEditing();
          this.keep(sheet, draft, reload);
        },
      },
    ];
  }

  /** What is refused is marked where it was typed; else it is asked why, and kept. */
  private keep(sheet: OrderSheet, draft: OrderDraft, reload: () => void): void {
    const typed = draft.typed();
    if (!typed) return;
    if (!differs(typed, sheet)) return this.over(draft);
    const order = sendable(typed, sheet.id);
    this.orders.previewChange(this.changeOf(order)).subscribe({
      next: ({ refusals }) => {
        // Those are asked for in the sheet.
        const at = refusals.filter(({ field }) => field !== 'reason' && field !== 'creditReason');
        draft.refusals.set(at);
        if (at.length > 0) return;
        const data: KeepChangeData = { number: sheet.number, currency: sheet.currency, change: this.changeOf(order) };
        this.sheets.open<KeepChangeData>(KeepChangeSheet, data).subscribe((done) => {
          if (!done) return;
          this.over(draft);
          this.notices.show(`${sheet.number} is changed.`);
          reload();
        });
      },
      error: (error: unknown) => draft.refuse(error),
    });
  }

  /** What of a typed order is sent as its change; what was bought for it moves along where one may change that too. */
  private changeOf({ id, version, shipToId, customerReference, lines }: ReturnType<typeof sendable>) {
    const along = this.session.may('purchases');
    return { id: id!, version: version!, shipToId, customerReference, lines, reason: '', along };
  }
}
