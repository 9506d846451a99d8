import { decideRelease, releasePreview, type ReleaseAsked, type ReleaseGround } from '@core/agreements';
import { agreementLine, agreementSheet } from '../../test/agreement';
import { refusal, Stage, type Asked } from '../../test/stage';
import { ReleaseSheet } from './release-sheet';
import type { AgreementSheet } from './service';

const FC = agreementLine({
  id: 12,
  lineNo: 2,
  item: { id: 7, number: 'FC-20', name: 'Filter cartridge', unit: 'piece' },
  listPrice: '9.8',
  priceValue: '8.5',
  unitPrice: '8.5',
  breaks: [{ from: '1000', value: '8.2' }],
  committed: '12000',
  released: '0',
});
const two = agreementSheet({ lines: [agreementLine(), FC] });

/** What the server would say: the act's own decision on that agreement. */
function decidedOn(sheet: AgreementSheet, { input }: Asked) {
  const items = sheet.lines.flatMap(({ item, listPrice }) => (item ? [{ ...item, listPrice }] : []));
  const ground = {
    agreement: { ...sheet, tolerancePercent: sheet.tolerancePercent },
    party: { id: 3, name: sheet.party.name, referenceRequired: false },
    shipToIds: [5, 6],
    items: new Map(),
    lines: sheet.lines.map((line, at) => ({
      ...line,
      itemId: line.item?.id ?? null,
      groupId: line.group?.id ?? null,
      item: items[at]
        ? { ...items[at], groupId: null, taxCodeId: 1, taxRate: '0', route: 'stock', approvedInstead: null }
        : null,
    })),
  } as unknown as ReleaseGround;
  const decision = decideRelease(ground, input as unknown as ReleaseAsked, '2027-03-01');
  return decision.effects ? releasePreview(decision.effects, ground) : null;
}

const stageOf = (sheet: AgreementSheet = two, previews?: (asked: Asked) => unknown) =>
  Stage.of(ReleaseSheet, { data: sheet, previews: previews ?? ((asked) => decidedOn(sheet, asked)) });

/** The cells that are read: item, price, what is left after, amount. */
const read = (stage: Stage) => stage.rows().map((cells) => [cells[0], cells[2], cells[5], cells[6]]);

describe('the release sheet', () => {
  it.each([
    [{ left: '1300', unit: '' }, '; MYR 1,300.00 left on the whole'],
    [{ left: '5.5', unit: 'box' }, '; 5.5 box left on the whole'],
    [{ left: '-1', unit: '' }, '; MYR 1.00 beyond its limit on the whole'],
  ])('A5 says what is left on the whole: %j', async (whole, said) => {
    const stage = await stageOf(two, (asked) => ({ ...decidedOn(two, asked), whole }));
    expect(stage.text('footer')).toContain(said);
  });

  it('begins with a row for each line, a week from the work date, and what is left of it', async () => {
    const stage = await stageOf();
    expect(read(stage)).toEqual([
      ['RO-4040', '740.00', '60', ''],
      ['FC-20', '8.50', '12,000', ''],
    ]);
    expect(stage.field('Ship date of RO-4040').value).toBe('Mon 8 Mar');
  });

  it('shows what is left and the amount while it is typed, at the price of the quantity', async () => {
    const stage = await stageOf();
    await stage.type('Quantity of RO-4040', '12');
    await stage.type('Quantity of FC-20', '1,000');
    expect(read(stage)).toEqual([
      ['RO-4040', '740.00', '48', '8,880.00'],
      ['FC-20', '8.20', '11,000', '8,200.00'],
    ]);
    expect(stage.text('footer')).toContain('17,080.00');
    expect(stage.previewed.at(-1)!.input['lines']).toEqual([
      { agreementLineId: 11, quantity: '12', shipDate: '2027-03-08' },
      { agreementLineId: 12, quantity: '1000', shipDate: '2027-03-08' },
    ]);
  });

  it.each([
    ['refuse', '-1', true],
    ['warn', '-1', false],
    ['split', '0', false],
  ] as const)('above the limit, under %s, left is %s and marked: %s', async (limitPolicy, left, marked) => {
    const stage = await stageOf(agreementSheet({ limitPolicy }));
    await stage.type('Quantity of RO-4040', '61');
    expect(read(stage)[0]![2]!.replace('−', '-')).toBe(left);
    expect(stage.element.querySelector('td.over') !== null).toBe(marked);
  });

  it('counts the tolerance to what may still go', async () => {
    const stage = await stageOf(agreementSheet({ tolerancePercent: '10' }));
    expect(read(stage)[0]![2]).toBe('70');
  });

  it('takes another date of a line a week after its last, and both count to what is left', async () => {
    const stage = await stageOf(agreementSheet());
    await stage.type('Quantity of RO-4040', '20');
    await stage.press('Another date of RO-4040');
    const inputs = [...stage.element.querySelectorAll<HTMLInputElement>('[aria-label="Quantity of RO-4040"]')];
    expect(inputs).toHaveLength(2);
    inputs[1]!.value = '15';
    inputs[1]!.dispatchEvent(new Event('input'));
    await stage.rests();
    expect(read(stage)[0]![2]).toBe('25');
    expect(stage.previewed.at(-1)!.input['lines']).toEqual([
      { agreementLineId: 11, quantity: '20', shipDate: '2027-03-08' },
      { agreementLineId: 11, quantity: '15', shipDate: '2027-03-15' },
    ]);
  });

  it('takes rows of a spreadsheet, and says of each it cannot take why', async () => {
    const stage = await stageOf();
    await stage.press('Paste rows…');
    const box = stage.element.querySelector('textarea')!;
    const pasted = new Event('paste', { cancelable: true });
    Object.defineProperty(pasted, 'clipboardData', {
      value: { getData: () => 'RO-4040\t12\t15/3\nFC-20\tmany\nPM-15\t1\nfc-20\t500' },
    });
    box.dispatchEvent(pasted);
    await stage.rests();
    // The browser would put the text into the box and call it changed once it is left: it must not be taken again.
    expect(pasted.defaultPrevented).toBe(true);
    const sent = stage.previewed.at(-1)!.input['lines'] as { agreementLineId: number; quantity: string }[];
    expect(sent.map(({ agreementLineId, quantity }) => [agreementLineId, quantity])).toEqual([
      [11, '12'],
      [12, '500'],
    ]);
    expect(stage.text()).toContain('PM-15 is not on this agreement');
    expect(stage.text()).toMatch(/Row 2/);
  });

  it('takes typed rows once, when their box is left', async () => {
    const stage = await stageOf();
    await stage.press('Paste rows…');
    const box = stage.element.querySelector('textarea')!;
    box.value = 'RO-4040\t5';
    for (let times = 0; times < 2; times += 1) {
      box.dispatchEvent(new Event('change'));
      await stage.rests();
    }
    const sent = stage.previewed.at(-1)!.input['lines'] as { quantity: string }[];
    expect(sent.map((each) => each.quantity)).toEqual(['5', '']);
  });

  it('says of a split which part is at which price', async () => {
    const stage = await stageOf(agreementSheet({ limitPolicy: 'split' }), () => ({
      net: '60350',
      lines: [
        { agreementLineId: 11, itemId: 2, quantity: '60', unitPrice: '740', amount: '44400', agreedAmount: null },
        { agreementLineId: null, itemId: 2, quantity: '20', unitPrice: '815', amount: '16300', agreedAmount: null },
      ],
      asked: [{ unitPrice: '740', amount: '60700' }],
      left: [{ agreementLineId: 11, left: '0' }],
    }));
    await stage.type('Quantity of RO-4040', '80');
    expect(stage.text()).toContain('at the list price');
    expect(stage.text()).toContain('from AG-0008');
    expect(stage.text('footer')).toContain('60,350.00');
  });

  it('says refusals at their cells once something is typed there, and keeps what was typed when it is tried', async () => {
    const stage = await Stage.of(ReleaseSheet, {
      data: agreementSheet(),
      previews: () => ({ refusals: [refusal('above', 'lines.0.quantity', 'Only 60 are left.')], effects: null }),
      refused: [refusal('stale', '', 'Somebody else released.')],
    });
    expect(stage.text()).not.toContain('Only 60 are left.');
    await stage.type('Quantity of RO-4040', '61');
    expect(stage.text()).toContain('Only 60 are left.');
    await stage.send();
    expect(stage.text()).toContain('Somebody else released.');
    expect(stage.closed).toEqual([]);
    expect(stage.field('Quantity of RO-4040').value).toBe('61');
    await stage.send();
    expect(stage.closed).toHaveLength(1);
    expect(stage.acted.map((each) => each.name)).toEqual(['releaseAgreement', 'releaseAgreement']);
  });

  it('asks a vendor for a purchase order: no address of ours and no reference of theirs', async () => {
    const stage = await stageOf(agreementSheet({ side: 'buying', shipTos: [] }));
    expect(stage.button('Place the purchase order')).toBeTruthy();
    expect(stage.text()).not.toContain('Ship to');
    expect(stage.previewed.at(-1)!.input['shipToId']).toBeNull();
  });

  it('counts value where the agreement is by value, and asks which item of a group', async () => {
    const group = agreementLine({
      item: null,
      group: { id: 4, code: 'CHEM', name: 'Salt and chemicals' },
      priceKind: 'discount',
      priceValue: '6',
      committed: '0',
      committedValue: '24000',
      releasedValue: '4000',
      released: '0',
    });
    const stage = await Stage.of(ReleaseSheet, {
      data: agreementSheet({ basis: 'value', lines: [group] }),
      previews: () => ({ net: '0', lines: [], asked: [], left: [{ agreementLineId: 11, left: '20000' }] }),
      reads: () => ({ rows: [{ id: 9, number: 'SALT-25', name: 'Salt', unit: 'bag', listPrice: '20' }] }),
    });
    expect(stage.field('Item for CHEM')).toBeTruthy();
    expect(stage.text('tbody')).toContain('20,000.00');
  });
});
