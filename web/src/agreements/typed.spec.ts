import type { AgreementSheet } from './service';
import { priceWords, stepWords, type Line } from './agreement-columns';
import {
  blankLine,
  committedProblem,
  committedValue,
  emptyTerms,
  isUsed,
  breaksProblem,
  priceProblem,
  sendable,
  sendableRevision,
  termsOf,
  unitPriceOf,
  type TypedLine,
} from './typed';

const typedLine = (change: Partial<TypedLine>): TypedLine => ({
  ...blankLine(),
  itemId: 7,
  number: 'RO-4040',
  listPrice: '815',
  committed: '10',
  price: '740',
  ...change,
});

const line: Line = {
  id: 1,
  lineNo: 1,
  item: { id: 7, number: 'FC-20', name: 'Filter cartridge', unit: 'piece' },
  group: null,
  listPrice: '9.8',
  priceKind: 'fixed',
  priceValue: '8.5',
  breaks: [{ from: '1000', value: '8.2' }],
  unitPrice: '8.5',
  leastRelease: '250',
  releaseMultiple: '25',
  notes: 'Boxes of 25.',
  committed: '12000',
  committedValue: '102000',
  released: '0',
  releasedValue: '0',
  shipped: '0',
  shippedValue: '0',
  invoiced: '0',
  invoicedValue: '0',
  calls: [],
};

describe('the terms of an agreement while they are typed', () => {
  it.each([
    ['740', '740'],
    ['10 %', '733.5'],
    ['list', '815'],
    ['x', null],
    ['x %', null],
  ])('a price typed as %s is worth %s', (price, worth) => {
    expect(unitPriceOf(typedLine({ price }))?.toFixed() ?? null).toBe(worth);
  });

  it('values what can be read and leaves out what cannot', () => {
    const lines = [typedLine({}), typedLine({ price: '10 %' }), typedLine({ committed: 'many' }), blankLine()];
    expect(committedValue(lines, 'MYR', 'quantity')).toBe('14735');
  });

  it('says at the cell what cannot be kept, and nothing of what is not typed yet', () => {
    expect([priceProblem(''), priceProblem('list'), priceProblem('8 %'), priceProblem('740')]).toEqual([
      '',
      '',
      '',
      '',
    ]);
    expect(priceProblem('-5')).toContain('Write a price like 740');
    expect(priceProblem('0')).toContain('Write a price like 740');
    expect(['', '500: 4.85', 'from 500 at 4.85; 1,000 4.6', '20: 8 %'].map(breaksProblem)).toEqual(['', '', '', '']);
    for (const bad of ['500', '500 for 4.85', '0: 4', '500: 4.85; many: 4']) {
      expect(breaksProblem(bad)).toContain('Write breaks like 500: 4.85');
    }
    expect([committedProblem('', 'quantity'), committedProblem('5', 'price')]).toEqual(['', '']);
    expect(committedProblem('0', 'quantity')).toBe('The committed quantity must be a number above zero.');
    expect(committedProblem('1.00001', 'price')).toBe('The committed amount must be a number above zero.');
  });

  it('sends the cells as terms, without the blank last line', () => {
    const typed = {
      ...emptyTerms('2027-03-01'),
      lines: [typedLine({ price: '8 %', breaks: '20: 9; 50: 10', least: '', multiple: '5', notes: 'n' }), blankLine()],
    };
    expect(sendable(typed, null).lines).toEqual([
      {
        itemId: 7,
        groupId: null,
        committed: '10',
        priceKind: 'discount',
        priceValue: '8',
        breaks: [
          { from: '20', value: '9' },
          { from: '50', value: '10' },
        ],
        leastRelease: '0',
        releaseMultiple: '5',
        notes: 'n',
      },
    ]);
    expect(sendable(typed, null)).not.toHaveProperty('partyName');
    expect([isUsed(blankLine()), isUsed(typedLine({}))]).toEqual([false, true]);
  });

  it('shows a kept agreement as it would be typed, so that saving it again changes nothing', () => {
    const sheet = {
      id: 3,
      version: 4,
      side: 'selling',
      basis: 'quantity',
      party: { id: 1, number: 'C-1', name: 'Teratai Bay Resort' },
      salesOrganisation: { id: 2, number: 'COAST', name: 'East coast' },
      rebate: { kind: 'whole', by: 'value', tiers: [{ from: '10000', rate: '2' }] },
      reminders: [{ kind: 'days', at: '30', firedOn: null, handledOn: null }],
      releaseAhead: '5',
      title: 'Cartridges',
      firstDay: '2027-01-01',
      lastDay: '2027-12-31',
      signedOn: null,
      limitPolicy: 'split',
      tolerancePercent: '0',
      wholeLimit: '500 kg',
      probabilityPercent: '90',
      priority: 2,
      notes: 'Mondays.',
      lines: [line],
    } as unknown as AgreementSheet;
    expect(sendable(termsOf(sheet), 3)).toMatchObject({
      id: 3,
      version: 4,
      customerId: 1,
      vendorId: null,
      salesOrganisationId: 2,
      rebate: { kind: 'whole', by: 'value', tiers: [{ from: '10000', rate: '2' }] },
      reminders: [{ kind: 'days', at: '30' }],
      releaseAhead: '5',
      limitPolicy: 'split',
      wholeLimit: '500 kg',
      priority: '2',
      lines: [
        {
          itemId: 7,
          committed: '12000',
          priceKind: 'fixed',
          priceValue: '8.5',
          breaks: [{ from: '1000', value: '8.2' }],
          leastRelease: '250',
          releaseMultiple: '25',
          notes: 'Boxes of 25.',
        },
      ],
    });
  });

  it('by value, commits to amounts over items, groups and everything', () => {
    const group = { ...blankLine(), groupId: 3, number: 'CART', committed: '5000', price: 'list' };
    const everything = { ...blankLine(), everything: true, number: 'everything', committed: '100.5', price: '5 %' };
    const typed = { ...emptyTerms('2027-03-01'), basis: 'value' as const, lines: [group, everything, blankLine()] };
    expect(committedValue(typed.lines, 'MYR', 'value')).toBe('5100.5');
    expect(sendable(typed, null).lines.map(({ itemId, groupId, committed }) => [itemId, groupId, committed])).toEqual([
      [null, 3, '5000'],
      [null, null, '100.5'],
    ]);
  });

  it('A15 sends a revision with the lines it changes, its reason and the choice to reprice', () => {
    const typed = {
      ...emptyTerms('2027-03-01'),
      version: 4,
      lines: [typedLine({ id: 11 }), typedLine({ id: null }), blankLine()],
    };
    const revision = sendableRevision(typed, 3, 'Prices fell', true);
    expect(revision).toMatchObject({ id: 3, version: 4, reason: 'Prices fell', reprice: true });
    expect(revision.lines.map((each) => each.id)).toEqual([11, null]);
  });

  it('says prices and steps in words', () => {
    expect(priceWords(line, 'MYR')).toBe('8.50; 8.20 from 1,000');
    expect(priceWords({ ...line, priceKind: 'discount', priceValue: '8', breaks: [] }, 'MYR')).toBe(
      '8 % off the list price',
    );
    expect(priceWords({ ...line, priceKind: 'none', priceValue: '', breaks: [] }, 'MYR')).toBe('the list price');
    expect(stepWords(line)).toBe('at least 250, in multiples of 25');
    expect(stepWords({ ...line, leastRelease: '0', releaseMultiple: '0' })).toBe('');
  });
});
