import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { of } from 'rxjs';
import { map } from 'rxjs/operators';
import type * as z from 'zod';
import { dec, MAIN_LOCATION, type DocumentKind, type DocumentRef } from '@core/kernel';
import type { RelatedDocument } from '@api/agreements';
import * as ledger from '@api/ledger';
import * as sisters from '@api/sisters';
import * as supply from '@api/supply';
import { Session } from '../access';
import { Api } from '../kit/act/api';
import { Dock } from '../kit/controls/dock';
import { kindName, pathOf } from '../kit/documents';
import { day, exchangeWords, fieldShown, moment, money, namedMoney, quantity, sentenceCase } from '../kit/formats';
import { liveDocument } from '../kit/live/live';
import { ThreadView } from '../kit/charts/thread';
import { AvailabilityPanel, PeggingPanel } from '../promise';

type Related = z.infer<typeof RelatedDocument>;

/** Documents that are about order lines, and so have a thread. */
const THREADED: readonly string[] = ['SO', 'PO', 'RC', 'SH', 'CI', 'VI', 'CN'];

/** What the amount of a document is: no two kinds are added up. */
const AMOUNTS: Readonly<Record<string, string>> = {
  SO: 'net',
  PO: 'net',
  RC: 'at cost',
  SH: 'at cost',
  CI: 'with tax',
  VI: 'with tax',
  CN: 'with tax',
  PP: 'paid ahead',
};

/** Documents that serve, or are served. */
const PEGGED: readonly string[] = ['SO', 'PO', 'PR', 'AS', 'PL'];

const sameDocument = (a: DocumentRef | null, b: DocumentRef | null) => a?.kind === b?.kind && a?.id === b?.id;

/** The dock of every page: the thread of the selected line, the documents, and what was posted and changed. */
@Component({
  selector: 'k-document-dock',
  imports: [AvailabilityPanel, Dock, PeggingPanel, RouterLink, ThreadView],
  templateUrl: './dock.html',
  styles: `
    .columns {
      display: grid;
      grid-template-columns: 1.2fr 1fr;
      gap: 32px;
    }
    h3 {
      font: 600 14px var(--serif);
      margin-bottom: 2px;
    }
    table {
      margin-bottom: 10px;
    }
    table.small td {
      height: 25px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DocumentDock {
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  /** The document whose postings and changes are shown. */
  readonly document = input<DocumentRef | null>(null);
  /** The order line whose thread is shown; where none is named, that of the document's first. */
  readonly orderLineId = input<number | null>(null);
  readonly related = input<readonly Related[] | null>(null);
  /** A first tab of the page's own, projected. */
  readonly own = input('');
  /** A second one. */
  readonly more = input('');
  /** One behind the thread. */
  readonly behind = input('');
  readonly about = input('');
  /** The item of the selected line: what is there of it, and when. */
  readonly itemId = input<number | null>(null);
  /** The line that asks for it, so that its own demand is left out; how many, and by when. */
  readonly asking = input<{
    lineId: number | null;
    locationId: number;
    quantity: string;
    by: string | null;
  }>({
    lineId: null,
    locationId: MAIN_LOCATION,
    quantity: '',
    by: null,
  });

  /** Agreements and orders post nothing themselves; what they lead to does. */
  private readonly posts = computed(
    () => !['AG', 'SO', 'PO', 'PR', 'AS', 'PL', undefined].includes(this.document()?.kind),
  );
  private readonly threaded = computed(() => THREADED.includes(this.document()?.kind ?? ''));
  protected readonly amountOf = (kind: string) => AMOUNTS[kind] ?? '';
  protected readonly workDate = this.session.workDate;
  protected readonly tabs = computed(() => [
    ...(this.own() ? [this.own()] : []),
    ...(this.more() ? [this.more()] : []),
    ...(this.orderLineId() !== null ||
    this.threaded() ||
    (!this.own() && !this.behind() && !this.document() && this.itemId() === null)
      ? ['Thread']
      : []),
    ...(this.itemId() !== null ? ['Availability'] : []),
    ...(PEGGED.includes(this.document()?.kind ?? '') ? ['Pegging'] : []),
    ...(this.behind() ? [this.behind()] : []),
    ...(this.related() ? ['Documents'] : []),
    ...(this.posts() ? ['Journals and stock'] : []),
    ...(this.document() ? ['Changes'] : []),
  ]);
  protected readonly chosen = linkedSignal<readonly string[], string>({
    source: this.tabs,
    computation: (tabs, before) => (before && tabs.includes(before.value) ? before.value : (tabs[0] ?? '')),
  });
  private readonly threadKey = computed(() => ({ line: this.orderLineId(), document: this.document() }), {
    equal: (a, b) => a.line === b.line && (a.line !== null || sameDocument(a.document, b.document)),
  });
  protected readonly thread = liveDocument(
    this.threadKey,
    ({ line, document }) => {
      if (line !== null) return this.api.call(supply.openThread, { params: { id: line } });
      if (document === null || !THREADED.includes(document.kind)) return of(null);
      const params = { kind: document.kind, id: document.id };
      return this.api.call(supply.threadOfDocument, { params }).pipe(map(({ thread }) => thread));
    },
    () => true,
  ).state;
  /** Where the thread goes on at sister companies; nothing is asked where there are none. // X4 */
  protected readonly beyond = liveDocument(
    computed(() => this.thread().value?.orderLineId ?? null),
    (line) =>
      line === null || !this.session.current()?.sisters
        ? of(null)
        : this.api.call(sisters.threadBeyond, { params: { id: line } }),
    ({ kind }) => ['SO', 'PO', 'SH', 'RC', 'CI', 'VI'].includes(kind),
  ).state;
  protected readonly trail = liveDocument(
    this.document,
    (document) =>
      document === null
        ? of(null)
        : this.api.call(ledger.openTrail, { params: { kind: document.kind, id: document.id } }),
    (document, _shown, shown) => shown !== null && document.kind === shown.kind && document.id === shown.id,
  ).state;
  protected readonly pathOf = pathOf;
  protected readonly kindOf = (kind: DocumentKind) => sentenceCase(kindName(kind));
  protected readonly day = (value: string) => day(value, this.workDate());
  /** In the company's currency. */
  protected readonly money = (value: string) => money(value, this.session.company()?.currency ?? 'MYR');
  protected readonly moneyIn = money;
  protected readonly named = (value: string, currency: string) =>
    namedMoney(value, currency, this.session.company()?.currency ?? '');
  /** The other currency that entries of a journal are told in; none where it is the company's alone. // P8 */
  protected readonly foreignOf = ({ entries }: { entries: readonly { foreign: { currency: string } | null }[] }) =>
    entries.find((entry) => entry.foreign)?.foreign?.currency ?? '';
  /** What a move gained or lost by the rate: what comes in is worth more than it settled, what goes out less. // P8 */
  protected readonly exchangeOf = (move: { difference: string }, kind: DocumentKind, currency: string) =>
    exchangeWords(kind === 'VI' ? dec(move.difference).neg().toFixed() : move.difference, currency);
  protected readonly quantity = quantity;
  protected readonly moment = moment;
  protected readonly shownField = (text: string) => fieldShown(text, this.workDate());
  /** In the dock's corner: what the shown thread is of. */
  protected readonly corner = computed(() =>
    this.chosen() === 'Thread'
      ? [
          this.thread().value?.title ?? '',
          ...(this.beyond().value?.ends ?? []).map(({ company, number }) => `goes on at ${company.name} as ${number}`),
        ]
          .filter(Boolean)
          .join(' · ')
      : this.about(),
  );
}
