import { exchangeAt } from '../kernel/testing';
import { decideDropShortfall, decideShortfall, type ShortfallGround } from './index';

const ground = (change: Partial<ShortfallGround> = {}): ShortfallGround => ({
  agreement: { number: 'AG-0007', currency: 'MYR' },
  state: 'draft',
  lines: [
    { taxCode: 'S10', taxRate: '10', net: '100.05' },
    { taxCode: 'S10', taxRate: '10', net: '0.10' },
    { taxCode: 'Z', taxRate: '0', net: '20' },
  ],
  termsDays: 30,
  exchange: exchangeAt(),
  ...change,
});

describe('A11 a shortfall', () => {
  it('is charged with its taxes by code, due by the terms', () => {
    const charged = decideShortfall(ground(), '2027-01-15');
    expect(charged).toMatchObject({
      ok: true,
      effects: {
        net: '120.15',
        tax: '10.02',
        total: '130.17',
        taxes: [
          { taxCode: 'S10', base: '100.15', tax: '10.02' },
          { taxCode: 'Z', base: '20', tax: '0' },
        ],
        invoiceDate: '2027-01-15',
        dueDate: '2027-02-14',
        currency: 'MYR',
      },
    });
  });

  it.each(['posted', 'dropped'])('is neither charged nor dropped once it is %s', (state) => {
    const refusals = [{ code: 'shortfall-not-draft', field: '', facts: { agreement: 'AG-0007', state } }];
    expect(decideShortfall(ground({ state }), '2027-01-15')).toEqual({ ok: false, refusals });
    expect(decideDropShortfall(ground({ state }))).toEqual({ ok: false, refusals });
  });

  it('is dropped while it is a draft', () => {
    expect(decideDropShortfall(ground())).toMatchObject({ ok: true, effects: { agreement: 'AG-0007' } });
  });
});
