import { agreementLine, agreementSheet } from '../../test/agreement';
import { refusal, Stage } from '../../test/stage';
import { MoneyPanel } from './money-panel';
import { ClaimSheet, PrepaymentSheet, SettleSheet, ShortfallSheet } from './money-sheets';

describe('settling a rebate', () => {
  const effects = { amount: '360.81', currency: 'MYR', setOff: [{ invoice: 'CI-0030', amount: '300' }] };

  it('shows the credit note and what it is set off against', async () => {
    const stage = await Stage.of(SettleSheet, { data: agreementSheet(), previews: () => effects });
    expect(stage.text('dl')).toContain('MYR 360.81');
    expect(stage.text('dl')).toContain('CI-0030, 300.00');
    await stage.send();
    expect(stage.acted).toEqual([{ name: 'settleRebate', input: { agreementId: 8 } }]);
  });

  it('says that it stands to their credit where nothing is owed', async () => {
    const stage = await Stage.of(SettleSheet, { data: agreementSheet(), previews: () => ({ ...effects, setOff: [] }) });
    expect(stage.text('dl')).toContain('nothing; it stands to their credit');
  });

  it('says why nothing can be settled', async () => {
    const stage = await Stage.of(SettleSheet, {
      data: agreementSheet(),
      previews: () => ({ refusals: [refusal('nothing-accrued', '', 'Nothing is accrued yet.')], effects: null }),
    });
    expect(stage.text()).toContain('Nothing is accrued yet.');
  });
});

describe('claiming a rebate back', () => {
  it('shows the invoice it becomes and makes it', async () => {
    const effects = { amount: '222', currency: 'MYR', dueDate: '2027-04-30' };
    const stage = await Stage.of(ClaimSheet, { data: agreementSheet(), previews: () => effects });
    expect(stage.text('dl')).toContain('MYR 222.00, due Fri 30 Apr');
    await stage.send();
    expect(stage.acted).toEqual([{ name: 'claimRebate', input: { agreementId: 8 } }]);
  });
});

describe('taking a prepayment', () => {
  it('is on the work date and for the whole agreement until it is said otherwise', async () => {
    const stage = await Stage.of(PrepaymentSheet, { data: agreementSheet() });
    await stage.type('Amount, MYR', '30,000');
    await stage.send();
    await stage.type('Taken on', '26/2');
    await stage.choose('Held for', 'line 1, RO-4040');
    expect(stage.acted[0]!.input).toEqual({
      agreementId: 8,
      agreementLineId: null,
      amount: '30000',
      takenOn: '2027-03-01',
    });
    expect(stage.previewed.at(-1)!.input).toMatchObject({ agreementLineId: 11, takenOn: '2027-02-26' });
  });

  it('says of an amount that cannot be read that it is none, and keeps it', async () => {
    const stage = await Stage.of(PrepaymentSheet, { data: agreementSheet() });
    await stage.type('Amount, MYR', 'lots');
    expect(stage.text()).toContain('Not a number; write it like 1250.5.');
    expect(stage.field('Amount, MYR').value).toBe('lots');
  });
});

describe('charging a shortfall', () => {
  const data = agreementSheet({ state: 'ended', shortfall: { id: 3, state: 'draft', net: '44400' } });
  const effects = { currency: 'MYR', net: '44400', tax: '2664', total: '47064', dueDate: '2027-03-31' };

  it('shows the invoice it becomes, and posts it', async () => {
    const stage = await Stage.of(ShortfallSheet, { data, previews: () => effects });
    expect(stage.text('dl')).toContain('MYR 47,064.00, due Wed 31 Mar');
    await stage.press('Post the invoice');
    await stage.send();
    expect(stage.acted[0]).toEqual({ name: 'postShortfall', input: { id: 3 } });
  });

  it('or charges nothing after all', async () => {
    const stage = await Stage.of(ShortfallSheet, { data, previews: () => effects });
    await stage.choose('What is done', 'Charge nothing after all');
    expect(stage.element.querySelector('dl')).toBeNull();
    await stage.send();
    expect(stage.acted.map((each) => each.name)).toEqual(['dropShortfall']);
  });
});

describe('what an agreement holds beside its lines', () => {
  const rebated = agreementSheet({
    rebate: {
      kind: 'whole',
      by: 'value',
      tiers: [
        { from: '5000', rate: '2' },
        { from: '24000', rate: '4.5' },
      ],
    },
    rebateNow: {
      value: '12000',
      quantity: '30',
      accrued: '240',
      settled: '0',
      rate: '2',
      coming: { from: '24000', rate: '4.5', missing: '12000' },
    },
  });
  const panelOf = (sheet: ReturnType<typeof agreementSheet>, reads?: (asked: { name: string }) => unknown) =>
    Stage.of(MoneyPanel, { reads }, { sheet });

  it('shows each tier, what is owed, and what is missing to the next', async () => {
    const panel = await panelOf(rebated);
    expect(panel.text('section')).toContain('MYR 240.00 owed, on 12,000.00 invoiced in the term');
    expect(panel.text('section')).toContain('12,000.00 to the next tier.');
    expect(panel.rows().map((cells) => cells.slice(1))).toEqual([
      ['from 5,000.00', '2 %'],
      ['from 24,000.00', '4.5 %'],
    ]);
    expect(panel.button('Settle it…')).toBeTruthy();
  });

  it('says what was settled, and offers to settle no more than is owed', async () => {
    const panel = await panelOf(
      agreementSheet({ ...rebated, rebateNow: { ...rebated.rebateNow!, settled: '240', coming: null } }),
    );
    expect(panel.text('section')).toContain('MYR 0.00 owed');
    expect(panel.text('section')).toContain('240.00 settled');
    expect(() => panel.button('Settle it…')).toThrow('no button');
  });

  it('says what was settled beyond what is owed, and offers to claim it back', async () => {
    const now = { value: '9620', quantity: '13', accrued: '192.4', settled: '414.4', rate: '2', coming: null };
    const rebate = { kind: 'whole' as const, by: 'value' as const, tiers: [{ from: '5000', rate: '2' }] };
    const stage = await Stage.of(MoneyPanel, {}, { sheet: agreementSheet({ rebate, rebateNow: now }) });
    expect(stage.text()).toContain('MYR 0.00 owed');
    expect(stage.text()).toContain('MYR 222.00 more was settled than is owed.');
    expect(stage.button('Claim it back…')).toBeDefined();
  });

  it('counts units where the tiers are by quantity', async () => {
    const panel = await panelOf(
      agreementSheet({ ...rebated, rebate: { kind: 'step', by: 'quantity', tiers: [{ from: '1000', rate: '0.05' }] } }),
    );
    expect(panel.text('section')).toContain('on 30 units invoiced in the term');
    expect(panel.rows()[0]!.slice(1)).toEqual(['from 1,000', '0.05 each']);
  });

  it('shows what is paid ahead, and takes more only while the agreement is alive', async () => {
    const paid = {
      document: { kind: 'PP' as const, id: 1, number: 'PP-0001' },
      takenOn: '2026-12-03',
      amount: '30000',
      left: '11822',
      lineNo: 2,
    };
    const panel = await panelOf(agreementSheet({ prepayments: [paid] }));
    expect(panel.element.textContent).toContain('11,822.00 left of 30,000.00');
    expect(panel.element.textContent).toContain('for line 2');
    expect(panel.button('Take a prepayment…')).toBeTruthy();
    panel.close();
    const ended = await panelOf(agreementSheet({ state: 'ended', prepayments: [paid] }));
    expect(() => ended.button('Take a prepayment…')).toThrow('no button');
  });

  it('shows reminders as waiting, due since, or seen to; a due one is seen to by a press', async () => {
    const panel = await panelOf(
      agreementSheet({
        reminders: [
          { kind: 'days', at: '30', firedOn: '2027-02-26', handledOn: null },
          { kind: 'fulfilled', at: '80', firedOn: null, handledOn: null },
          { kind: 'pace', at: '-15', firedOn: '2027-02-01', handledOn: '2027-02-02' },
        ],
      }),
    );
    expect(panel.element.textContent).toMatch(/since Fri 26 Feb/);
    expect(panel.element.textContent).toMatch(/waiting/);
    expect(panel.element.textContent).toMatch(/seen to Tue 2 Feb/);
    await panel.press('Seen to');
    expect(panel.acted).toEqual([{ name: 'handleReminder', input: { agreementId: 8, kind: 'days', at: '30' } }]);
  });

  it('lists revisions with each field as it was and is', async () => {
    const panel = await panelOf(
      agreementSheet({
        revisions: [
          {
            revision: 1,
            person: 'Salmah',
            revisedOn: '2027-01-20',
            reason: 'They take what comes a little over',
            repriced: 2,
            changes: [{ what: 'Tolerance, per cent', was: '0', is: '5' }],
          },
        ],
      }),
    );
    expect(panel.element.textContent).toContain('Tolerance, per cent: 0 → 5');
    expect(panel.element.textContent).toContain('2 open lines repriced');
  });

  it('holds no rebate and nothing paid ahead with a vendor', async () => {
    const panel = await panelOf(agreementSheet({ side: 'buying', lines: [agreementLine()] }));
    expect([...panel.element.querySelectorAll('h3')].map((each) => each.textContent)).toEqual([
      'Reminders',
      'Revisions',
    ]);
  });
});
