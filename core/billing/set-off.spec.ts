import { decideSetOff, type SetOffGround } from '.';

const owed = (amount: string, ownAmount = amount, settled = '0', ownSettled = settled) => ({
  amount,
  settled,
  ownAmount,
  ownSettled,
});
const ground = (change: Partial<SetOffGround> = {}): SetOffGround => ({
  side: 'customer',
  credit: { number: 'CN-0001', owed: owed('-100') },
  currency: 'MYR',
  own: 'MYR',
  open: [
    { openItemId: 1, number: 'CI-0001', owed: owed('60') },
    { openItemId: 2, number: 'CI-0002', owed: owed('80', '80', '10') },
  ],
  ...change,
});
const decide = (at: SetOffGround, ...amounts: string[]) =>
  decideSetOff(at, { lines: amounts.map((amount, index) => ({ openItemId: index + 1, amount })) });
const refused = (at: SetOffGround, ...amounts: string[]) => {
  const decision = decide(at, ...amounts);
  return decision.ok ? [] : decision.refusals.map(({ field, code }) => `${field}: ${code}`);
};

describe('a credit set off against invoices', () => {
  it('settles each as far as typed, and says what is left of it', () => {
    expect(decide(ground(), '60', '12.5')).toMatchObject({
      ok: true,
      effects: {
        amount: '72.5',
        left: '27.5',
        setOffs: [
          { openItemId: 1, number: 'CI-0001', amount: '60', ownInvoice: '60', ownCredit: '60' },
          { openItemId: 2, amount: '12.5' },
        ],
      },
    });
    expect(decide(ground(), '', ' ')).toMatchObject({ ok: false });
    expect(refused(ground(), '', '70')).toEqual([]);
  });

  it('takes what both were carried at: what is settled whole is settled whole in both currencies', () => {
    const usd = ground({
      currency: 'USD',
      credit: { number: 'CN-0001', owed: owed('-10', '-44.85', '-4', '-17.94') },
      open: [
        { openItemId: 1, number: 'CI-0001', owed: owed('3', '13.80') },
        { openItemId: 2, number: 'CI-0002', owed: owed('9', '41.40') },
      ],
    });
    const decision = decide(usd, '3', '3');
    if (!decision.ok) throw new Error();
    const { setOffs, left } = decision.effects;
    expect(left).toBe('0');
    expect(setOffs.map(({ ownInvoice }) => ownInvoice)).toEqual(['13.8', '13.8']);
    // 26.91 of it was left: half, and then the rest to the cent.
    expect(setOffs.map(({ ownCredit }) => Number(ownCredit)).reduce((all, each) => all + each)).toBeCloseTo(26.91, 10);
  });

  it.each<[string, string[]]>([
    ['lines: nothing-asked', []],
    ['lines: nothing-asked', ['', '']],
    ['lines.0.amount: not-a-number', ['much']],
    ['lines.0.amount: not-a-number', ['1.005']],
    ['lines.0.amount: not-above-zero', ['0']],
    ['lines.0.amount: not-above-zero', ['-5']],
    ['lines.0.amount: above-owed', ['60.01']],
    ['lines.1.amount: above-owed', ['', '70.01']],
    ['lines.2.amount: unknown', ['', '', '5']],
    ['lines: above-the-credit', ['60', '40.01']],
  ])('%s', (refusal, amounts) => expect(refused(ground(), ...amounts)).toEqual([refusal]));

  it('goes as far as the credit does, and no further', () => {
    expect(refused(ground(), '60', '40')).toEqual([]);
    const used = ground({ credit: { number: 'CN-0001', owed: owed('-100', '-100', '-70', '-70') } });
    expect(refused(used, '30')).toEqual([]);
    expect(refused(used, '30.01')).toEqual(['lines: above-the-credit']);
  });
});
