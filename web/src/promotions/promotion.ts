import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { dec, inUnits } from '@core/kernel';
import { setPromotion } from '@api/promotions';
import { Session } from '../access';
import { DocumentPage, DocumentTitle } from '../kit/act/document-page';
import { ReasonSheet, type AsksReason } from '../kit/act/reason-sheet';
import { Sheets } from '../kit/act/sheet';
import { pathOf } from '../kit/documents';
import { counted, day, money, quantity } from '../kit/formats';
import { PromotionSheetForm, type PromotionData } from './promotion-sheet';
import { Promotions, type PromotionSheet } from './service';
import { forWhat, givesWhat, leftWords } from './words';

/** One promotion: what it gives, what is left to give, and what it brought with whom. // S13 */
@Component({
  selector: 'k-promotion',
  imports: [DocumentTitle, RouterLink],
  templateUrl: './promotion.html',
  styleUrl: './promotion.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PromotionPage {
  private readonly promotions = inject(Promotions);
  private readonly session = inject(Session);
  private readonly sheets = inject(Sheets);
  readonly id = input.required<string>();
  protected readonly page: DocumentPage<string, PromotionSheet> = new DocumentPage({
    key: this.id,
    name: 'Promotion',
    open: (id) => this.promotions.open(Number(id)),
    document: (sheet) => sheet.document,
    heading: (sheet) => ({
      strong: sheet.document.number,
      rest: ` ${sheet.name}`,
      sub: `${this.standsAs(sheet)} · ${leftWords(sheet.budget, sheet.used, sheet.currency)}`,
    }),
    touchedBy: (document, sheet) =>
      document.kind === 'SO' || (document.kind === 'PM' && document.id === sheet?.document.id),
    acts: () => {
      const sheet = this.page.sheet();
      if (!sheet || !this.session.may('promotions')) return [];
      const { id, number } = sheet.document;
      return [
        {
          name: 'change',
          label: 'Change…',
          place: 'step' as const,
          asks: true as const,
          does: () => this.sheets.open<PromotionData>(PromotionSheetForm, { promotion: sheet }),
          says: () => ['Changed:', sheet.document] as const,
        },
        {
          name: 'stop',
          label: 'Stop it…',
          place: 'button' as const,
          when: sheet.state === 'running',
          asks: true as const,
          does: () =>
            this.sheets.open<AsksReason<typeof setPromotion>>(ReasonSheet, {
              head: `Stop ${number}`,
              sub: 'What orders have of it stays; nothing more is given',
              act: 'Stop it',
              of: setPromotion,
              input: (reason) => ({ id, version: sheet.version, state: 'stopped' as const, reason }),
            }),
          says: () => ['Stopped:', sheet.document] as const,
        },
        {
          name: 'go-on',
          label: 'Let it go on',
          place: 'button' as const,
          when: sheet.state === 'stopped',
          does: () => this.promotions.set(id, sheet.version, 'running'),
          says: () => ['Goes on:', sheet.document] as const,
        },
        {
          name: 'like',
          label: 'Make one like it…',
          place: 'menu' as const,
          asks: true as const,
          does: () => this.sheets.open<PromotionData>(PromotionSheetForm, { like: sheet }),
          says: ({ made: [made] }) => ['Made:', made, 'go there'] as const,
        },
      ];
    },
  });
  /** What is given as a share of the budget; whole where there is none. */
  protected readonly share = computed(() => {
    const sheet = this.page.sheet();
    return sheet?.budget ? Math.min(1, dec(sheet.used).div(sheet.budget).toNumber()) : 0;
  });

  private standsAs({ state, reason, firstDay, lastDay, budget, used }: PromotionSheet): string {
    const today = this.session.workDate();
    if (state === 'stopped') return `stopped: ${reason}`;
    if (lastDay < today) return 'over';
    if (firstDay > today) return 'to come';
    return budget !== null && dec(used).gte(budget) ? 'used up' : 'running';
  }

  protected readonly forWhat = forWhat;
  protected readonly gives = (line: PromotionSheet['lines'][number]) => givesWhat(line, this.page.sheet()!.currency);
  protected readonly money = (value: string) => money(value, this.page.sheet()?.currency ?? 'MYR');
  protected readonly given = ({ given, item, freeItem }: PromotionSheet['lines'][number]) =>
    inUnits(quantity(given), freeItem?.unit ?? item?.unit ?? '');
  protected readonly counted = counted;
  protected readonly day = (value: string) => day(value, this.session.workDate());
  protected readonly pathOf = pathOf;
}
