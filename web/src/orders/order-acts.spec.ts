import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { of } from 'rxjs';
import { orderSheet } from '../../test/order';
import { Session } from '../access';
import { Api } from '../kit/act/api';
import { DocumentPage } from '../kit/act/document-page';
import { Sheets } from '../kit/act/sheet';
import { OrderActs, type OrderDraft } from './order-acts';
import type { OrderLine, OrderSheet } from './service';

/** What can be done with an order as it is, and what each did; `drafting` while it is typed over. */
function actsOn(
  sheet: OrderSheet | null,
  { rights = ['orders', 'plan', 'send'], drafting = false, words = [] as string[], sisters = false } = {},
) {
  const called: unknown[][] = [];
  const noted =
    (name: string) =>
    (...given: unknown[]) => {
      called.push([name, ...given.map((each) => (each as { name?: string } | undefined)?.name ?? each)]);
      return of(undefined);
    };
  TestBed.configureTestingModule({
    providers: [
      provideRouter([{ path: '**', children: [] }]),
      {
        provide: Session,
        useValue: {
          workDate: signal('2027-03-01'),
          current: () => ({ sisters }),
          may: (right: string) => rights.includes(right),
        },
      },
      { provide: Sheets, useValue: { open: noted('opens'), choose: noted('chooses') } },
      { provide: Api, useValue: { act: noted('does'), call: noted('reads') } },
    ],
  });
  const draft = {
    typing: signal(drafting),
    isNew: signal(sheet === null),
    save: (then?: () => void) => (called.push(['saves']), then?.()),
    saveAnd: (said: string, act: (id: number, version: number) => unknown) => {
      called.push(['saves', said]);
      act(1, 2);
    },
    drop: () => called.push(['drops']),
    refuse: () => called.push(['refuses']),
  } as unknown as OrderDraft;
  const acts = TestBed.runInInjectionContext(() => {
    const page = new DocumentPage<string, OrderSheet, OrderLine>({
      key: signal('1'),
      name: 'Sales order',
      open: () => of(sheet),
      document: ({ id, number }) => ({ kind: 'SO', id, number }),
      heading: () => ({ strong: '', sub: '' }),
      lines: (shown) => shown.lines,
    });
    return new OrderActs(
      page,
      draft,
      () => called.push(['finishes editing']),
      signal('They pay on Friday '),
      () => called.push(['begins to change']),
      () => words,
    );
  });
  TestBed.tick();
  const possible = () => acts.all().filter((act) => act.when ?? true);
  return {
    called,
    step: () => possible().find((act) => act.place === 'step')?.label ?? null,
    buttons: () => possible().flatMap((act) => (act.place ? [] : [act.label])),
    menu: () => possible().flatMap((act) => (act.place === 'menu' ? [act.name] : [])),
    named: (name: string) => acts.all().find((act) => act.name === name)!,
  };
}

describe('what can be done with an order', () => {
  it.each([
    ['draft', {}, 'Confirm'],
    ['confirmed', {}, 'Place the purchase…'],
    ['confirmed', { needsPurchase: false, tied: '12' }, 'Ship…'],
    ['confirmed', { needsPurchase: false, tied: '12', shipped: '12' }, 'Invoice what went out…'],
    ['closed', { needsPurchase: false, tied: '12', shipped: '12', invoiced: '12' }, null],
    ['cancelled', { needsPurchase: false }, null],
  ] as const)('%s, with %o, goes on by: %s', (state, change, step) => {
    expect(actsOn(orderSheet(state, change)).step()).toBe(step);
  });

  it('a new one can be confirmed and nothing else', () => {
    const acts = actsOn(null, { drafting: true });
    expect([acts.step(), acts.buttons(), acts.menu()]).toEqual(['Confirm', [], []]);
  });

  it('S10 asks once more where a day cannot be kept, and confirms at once where all can', () => {
    const words = ['Line 1, RO-4040: cannot be before Mon 8 Mar: Arus needs 5 working days'];
    const asked = actsOn(null, { drafting: true, words });
    asked.named('confirm').does!();
    expect(asked.called).toMatchObject([
      ['finishes editing'],
      ['chooses', 'AskSheet', { words, act: 'Confirm all the same' }],
    ]);
    TestBed.resetTestingModule();
    const fine = actsOn(null, { drafting: true });
    fine.named('confirm').does!();
    expect(fine.called[1]).toEqual(['saves', 'Confirmed:']);
  });

  it('its line without supply is tied, turned, promised or closed short', () => {
    expect(actsOn(orderSheet('confirmed', { route: 'special' })).buttons()).toEqual([
      'Supply of line 1…',
      'Tie line 1…',
      'Change…',
      'Promise…',
    ]);
  });

  it('its line with supply on the way is untied, not turned', () => {
    const ties = [{ id: 7, received: '0', purchase: { kind: 'PO' as const, id: 4, number: 'PO-0004' } }];
    const acts = actsOn(orderSheet('confirmed', { needsPurchase: false, tied: '12', ties: ties as never }));
    expect(acts.buttons()).toEqual(['Untie line 1', 'Change…']);
    acts.named('untie').does!();
    expect(acts.called).toEqual([['does', 'untie', { tieIds: [7] }]]);
  });

  it('one that is shipped in part can be shipped beside its next step, and its rest given up', () => {
    const ties = [{ id: 7, received: '5', purchase: { kind: 'PO', id: 4, number: 'PO-0004' } }] as never;
    const change = { needsPurchase: false, tied: '12', shipped: '5', ties };
    const acts = actsOn(orderSheet('confirmed', change));
    expect([acts.step(), acts.buttons()]).toEqual(['Invoice what went out…', ['Change…', 'Ship…']]);
  });

  it.each([
    ['closed', { shipped: '12' }, []],
    ['cancelled', {}, []],
  ] as const)('one that is %s has no line act left', (state, change, labels) => {
    expect(actsOn(orderSheet(state, { needsPurchase: false, ...change })).buttons()).toEqual(labels);
  });

  it('is cancelled only while nothing supplies it, and its promise taken back only where there is one', () => {
    expect(actsOn(orderSheet('draft', {})).menu()).toEqual([
      'threads',
      'pdf',
      'send',
      'commission',
      'copy',
      'repeat',
      'cancel',
    ]);
    TestBed.resetTestingModule();
    const ties = [{ id: 7, received: '5', purchase: { kind: 'PO', id: 4, number: 'PO-0004' } }] as never;
    const covered = {
      ...orderSheet('confirmed', { promised: '2027-03-12' as never, ties }),
      shares: { covered: 1, shipped: 0, invoiced: 0 },
    };
    expect(actsOn(covered).menu()).toEqual([
      'threads',
      'pdf',
      'send',
      'commission',
      'take-back',
      'copy',
      'repeat',
      'close-short',
    ]);
    TestBed.resetTestingModule();
    expect(actsOn(covered, { rights: [] }).menu()).toEqual(['threads', 'pdf', 'commission', 'copy']);
  });

  it('is held at a sister only where there is one and something is to be bought', () => {
    const holds = (change: Parameters<typeof orderSheet>[1], state: 'draft' | 'closed' = 'draft', sisters = true) => {
      TestBed.resetTestingModule();
      return actsOn(orderSheet(state, change), { sisters }).menu().includes('hold-at-sister');
    };
    expect(holds({ route: 'drop' })).toBe(true);
    expect(holds({ route: 'special' })).toBe(true);
    expect(holds({ route: 'stock' })).toBe(false);
    expect(holds({ route: 'special', tied: '12' })).toBe(false);
    expect(holds({ route: 'special' }, 'closed')).toBe(false);
    expect(holds({ route: 'special' }, 'draft', false)).toBe(false);
  });

  it('from our stock it can be cancelled while nothing of it went out; what was closed short is opened again', () => {
    const stock = { needsPurchase: false, route: 'stock', closedShort: true, cancelled: '2' } as const;
    const acts = actsOn(orderSheet('confirmed', stock));
    expect(acts.menu().filter((name) => ['cancel', 'open-again'].includes(name))).toEqual(['cancel', 'open-again']);
    acts.named('open-again').does!();
    expect(acts.called).toEqual([['does', 'openAgain', { id: 1, version: 2, lineIds: [11] }]]);
    TestBed.resetTestingModule();
    const gone = actsOn(orderSheet('confirmed', { ...stock, shipped: '1' }));
    expect(gone.menu()).not.toContain('cancel');
  });

  it('is confirmed as it was typed, with why it passes over its limit', () => {
    const acts = actsOn(orderSheet('draft', {}), { drafting: true });
    acts.named('confirm').does!();
    expect(acts.called).toEqual([
      ['finishes editing'],
      ['saves', 'Confirmed:'],
      ['does', 'confirmOrder', { id: 1, version: 2, creditReason: 'They pay on Friday' }],
    ]);
  });

  it('is promised once what is typed is kept', () => {
    const acts = actsOn(orderSheet('draft', { route: 'stock' }), { drafting: true });
    acts.named('promise').does!();
    expect(acts.called.map(([what]) => what)).toEqual(['finishes editing', 'saves', 'drops', 'reads', 'opens']);
  });

  it('gives up what is typed only by what changes the order itself, and is begun by an address only where it asks', () => {
    const acts = actsOn(orderSheet('draft', { route: 'stock', promised: '2027-03-12' as never }));
    const names = [
      'threads',
      'pdf',
      'send',
      'commission',
      'take-back',
      'copy',
      'cancel',
      'supply',
      'close-short',
      'ship',
    ];
    expect(names.filter((name) => acts.named(name).endsTyping)).toEqual(['take-back', 'cancel', 'close-short']);
    expect(['confirm', 'cancel', 'place', 'ship', 'invoice'].filter((name) => acts.named(name).asks)).toEqual([
      'place',
      'ship',
      'invoice',
    ]);
  });

  it('says what was done, with the document it is about', () => {
    const acts = actsOn(orderSheet('confirmed', {}));
    const made = (kind: 'SH' | 'PO', id: number) => ({ kind, id, number: `${kind}-000${id}` });
    const says = (
      name: string,
      done: { made: never[] | ReturnType<typeof made>[]; touched?: ReturnType<typeof made>[] },
    ) =>
      acts.named(name).says!({ touched: [], ...done })?.map((each) => (typeof each === 'object' ? each.number : each));
    expect(says('place', { made: [made('PO', 1)] })).toEqual(['Placed:', 'PO-0001']);
    expect(says('place', { made: [made('PO', 1), made('PO', 2)] })).toEqual([
      'Placed 2 purchase orders, first',
      'PO-0001',
    ]);
    expect(says('ship', { made: [made('PO', 9), made('SH', 3)] })).toEqual(['Shipped:', 'SH-0003']);
    expect(says('cancel', { made: [], touched: [made('PO', 5)] })![1]).toBe('PO-0005');
    expect(says('cancel', { made: [], touched: [made('PO', 5), made('PO', 6)] })![1]).toBe('PO-0006');
  });
});
