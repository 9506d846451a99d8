import { Session } from '../access';
import { inject, signal } from '@angular/core';
import { REST_WORDS, type LimitPolicy } from '@core/agreements';
import { PaperActs } from '../documents';
import type { DocumentAct, DocumentPage } from '../kit/act/document-page';
import { Sheets } from '../kit/act/sheet';
import { throwingAway } from '../kit/act/throw-away';
import type { TypedDraft } from '../kit/act/typed-draft';
import type { Line } from './agreement-columns';
import { CallsSheet } from './calls-sheet';
import { ClaimSheet, PrepaymentSheet, SettleSheet, ShortfallSheet } from './money-sheets';
import { PlanSheet } from './plan-sheet';
import { ReleaseSheet } from './release-sheet';
import { ReviseSheet } from './revise-sheet';
import { Agreements, type AgreementSheet } from './service';
import { termsOf, isUsed, type TypedLine, type TypedTerms } from './typed';
import { WrapUpSheet } from './wrap-up-sheet';

export type AgreementDraft = TypedDraft<AgreementSheet, TypedTerms, TypedLine>;

/** What happens above the committed quantity, as people read it. // A5 */
export const LIMIT_NAMES: Record<LimitPolicy, string> = {
  refuse: 'refuse the release',
  warn: 'let it pass with a word',
  keep: 'keep the agreed price',
  split: 'the rest at the list price',
};

/** What can be done with an agreement, from its draft to its end. To be made in an injection context. */
export class AgreementActs {
  private readonly agreements = inject(Agreements);
  private readonly session = inject(Session);
  private readonly sheets = inject(Sheets);
  private readonly paper = new PaperActs();
  /** Approved terms are being changed: they are kept as a revision. // A15 */
  readonly revising = signal(false);

  constructor(
    private readonly page: DocumentPage<string, AgreementSheet, Line>,
    private readonly draft: () => AgreementDraft,
    /** Takes what is being typed in the grid. */
    private readonly finishEditing: () => void,
    private readonly workDate: () => string,
  ) {}

  all(): DocumentAct[] {
    const sheet = this.page.sheet();
    if (this.revising() && sheet) return this.ofRevision(sheet);
    if (this.draft().typing()) return this.ofDraft(sheet);
    if (!sheet) return [];
    return [...this.menu(sheet), ...this.ofApproved(sheet), ...this.ofMoney(sheet)];
  }

  private ofRevision(sheet: AgreementSheet): DocumentAct[] {
    const leave = () => {
      this.draft().drop();
      this.revising.set(false);
    };
    return [
      { name: 'leave-revision', label: 'Leave it as it was', does: leave },
      {
        name: 'keep-revision',
        label: 'Keep the revision…',
        place: 'step',
        does: () => {
          this.finishEditing();
          return this.sheets.open(ReviseSheet, { sheet, typed: this.draft().typed()! });
        },
        says: ({ touched }) => {
          leave();
          return ['Revised:', touched[0]];
        },
      },
    ];
  }

  private ofDraft(sheet: AgreementSheet | null): DocumentAct[] {
    return [
      {
        name: 'cancel',
        endsTyping: true,
        label: 'Cancel the draft',
        when: sheet !== null,
        does: () => this.agreements.cancel(sheet!.id, sheet!.version),
        says: () => ['Cancelled.'],
      },
      {
        name: 'save',
        label: 'Save the draft',
        does: () => {
          this.finishEditing();
          this.draft().save();
        },
      },
      throwingAway(this.draft(), this.sheets),
      {
        name: 'put-in-force',
        label: 'Put in force',
        place: 'step',
        does: () => {
          this.finishEditing();
          this.draft().saveAnd('In force now:', (id, version) => this.agreements.putInForce(id, version));
        },
      },
    ];
  }

  private menu(sheet: AgreementSheet): DocumentAct[] {
    return [
      ...this.paper.of(this.page.document()!, 'menu'),
      {
        name: 'copy',
        label: 'Copy',
        place: 'menu',
        does: () => this.agreements.copy(sheet.id),
        says: ({ made }) => ['Copied into a draft:', made[0], 'go there'],
      },
    ];
  }

  private ofApproved(sheet: AgreementSheet): DocumentAct[] {
    const { id, version, state } = sheet;
    const open = state === 'in-force' || state === 'paused';
    const past = sheet.lastDay < this.workDate();
    return [
      { name: 'revise', label: 'Revise…', when: open, does: () => this.revising.set(true) },
      {
        name: 'plan',
        asks: true,
        label: 'Call-off plan…',
        when: open && sheet.basis === 'quantity',
        does: () => this.sheets.open(PlanSheet, sheet),
        says: () => ['The call-off plan is kept.'],
      },
      {
        name: 'pause',
        label: 'Pause',
        when: state === 'in-force',
        does: () => this.agreements.pause(id, version, true),
        says: () => ['Paused.'],
      },
      {
        name: 'wrap-up',
        asks: true,
        label: 'Wrap up…',
        when: open,
        place: past ? 'step' : 'button',
        does: () => this.sheets.open(WrapUpSheet, sheet),
        says: ({ made: [renewal], touched }) =>
          renewal
            ? [`${sheet.number} is ended; its renewal is a draft:`, renewal, 'go there']
            : ['Wrapped up:', touched[0]],
      },
      {
        name: 'go-on',
        label: 'Let it go on',
        when: state === 'paused' && !past,
        place: 'step',
        does: () => this.agreements.pause(id, version, false),
        says: () => ['In force again.'],
      },
      {
        name: 'release',
        asks: true,
        label: 'Release…',
        // Of a buying agreement a release is a purchase.
        when: state === 'in-force' && !past && this.session.may(sheet.side === 'buying' ? 'purchases' : 'orders'),
        place: 'step',
        does: () => this.sheets.open(ReleaseSheet, sheet),
        says: ({ made }) => [`Released from ${sheet.number}:`, made[0], 'go there'],
      },
      {
        name: 'calls',
        asks: true,
        label: 'Release as planned…',
        when: false,
        does: () => this.sheets.open(CallsSheet, sheet),
        says: ({ made }) => (made[0] ? ['Released as planned:', made[0], 'go there'] : undefined),
      },
    ];
  }

  /** What the money panel offers; a shortfall that waits is the next step of an ended agreement. */
  private ofMoney(sheet: AgreementSheet): DocumentAct[] {
    return [
      {
        name: 'settle',
        asks: true,
        label: 'Settle…',
        when: false,
        does: () => this.sheets.open(SettleSheet, sheet),
        says: ({ made }) => ['Settled:', made[0]],
      },
      {
        name: 'claim',
        asks: true,
        label: 'Claim it back…',
        when: false,
        does: () => this.sheets.open(ClaimSheet, sheet),
        says: ({ made }) => ['Claimed back:', made[0]],
      },
      {
        name: 'prepay',
        asks: true,
        label: 'Take a prepayment…',
        when: false,
        does: () => this.sheets.open(PrepaymentSheet, sheet),
        says: ({ made }) => ['Taken:', made[0]],
      },
      {
        name: 'shortfall',
        asks: true,
        label: 'Charge the shortfall…',
        when: sheet.state === 'ended' && sheet.shortfall?.state === 'draft',
        place: 'step',
        does: () => this.sheets.open(ShortfallSheet, sheet),
        says: ({ made, touched }) => [made[0] ? 'Charged:' : 'Nothing is charged:', made[0] ?? touched[0]],
      },
    ];
  }
}

/** In what their terms and mine differ: what, theirs, mine. */
export function differencesOf(
  theirs: AgreementSheet,
  mine: TypedTerms,
  dayText: (day: string | null) => string,
): [what: string, theirs: string, mine: string][] {
  const lines = (typed: readonly TypedLine[]) =>
    typed
      .filter(isUsed)
      .map((line) => `${line.number} ${line.committed} at ${line.price}`)
      .join('; ');
  const shown: [string, (terms: TypedTerms) => string][] = [
    ['About', (terms) => terms.title],
    ['First day', (terms) => dayText(terms.firstDay)],
    ['Last day', (terms) => dayText(terms.lastDay)],
    ['Signed', (terms) => dayText(terms.signedOn)],
    ['At the limit', (terms) => LIMIT_NAMES[terms.limitPolicy]],
    ['Probability', (terms) => terms.probabilityPercent],
    ['What is in no plan', (terms) => REST_WORDS[terms.restPlan]],
    ['Free goods', (terms) => (terms.freeGoodsCount ? 'count' : 'do not count')],
    ['Priority', (terms) => terms.priority],
    ['Notes', (terms) => terms.notes],
    ['Tolerance', (terms) => terms.tolerancePercent],
    ['Limit on the whole', (terms) => terms.wholeLimit],
    ['Rebate', (terms) => `${terms.rebateKind} ${terms.tiers}`],
    ['Reminders', (terms) => terms.reminders],
    ['Lines', (terms) => lines(terms.lines)],
  ];
  const other = termsOf(theirs);
  return shown.flatMap(([what, text]): [string, string, string][] => {
    const [a, b] = [text(other), text(mine)];
    return a === b ? [] : [[what, a || '–', b || '–']];
  });
}
