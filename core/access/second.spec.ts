import { decideApprove, decideReturn, decideSecondPerson, wantedOf, type AskedGround } from '.';
import { refuse } from '@core/refusals';

const asked = (change: Partial<AskedGround> = {}): AskedGround => ({
  state: 'waiting',
  askedBy: 1,
  personId: 2,
  ...change,
});
const codes = (decision: { ok: boolean; refusals?: { code: string }[] }) =>
  decision.ok ? [] : decision.refusals!.map(({ code }) => code);

describe('G7 a second person', () => {
  it('is wanted for what the company says, and for no longer wanting one', () => {
    const pay = { kind: 'money-out', words: 'Pay' } as const;
    const limit = { kind: 'credit-limit', words: 'Limit' } as const;
    const settings = { kind: 'settings', words: 'No second person' } as const;
    expect(wantedOf([pay, limit], ['money-out'])).toEqual([pay]);
    expect(wantedOf([pay, limit], [])).toEqual([]);
    expect(wantedOf([settings], ['write-off'])).toEqual([settings]);
    expect(wantedOf([settings], [])).toEqual([]);
  });

  it('approves what another asked for, once, and while nothing stands against it', () => {
    const against = [refuse('busy', '', {})];
    expect(decideApprove(asked(), [])).toMatchObject({ ok: true, effects: { state: 'approved' } });
    expect(codes(decideApprove(asked({ personId: 1 }), []))).toEqual(['asked-own']);
    expect(codes(decideApprove(asked(), against))).toEqual(['busy']);
    for (const state of ['approved', 'returned', 'withdrawn'] as const) {
      expect(codes(decideApprove(asked({ state }), against))).toEqual(['asked-decided']);
    }
  });

  it('returns it with why; who asked takes it back without', () => {
    expect(decideReturn(asked(), ' too much ')).toMatchObject({
      ok: true,
      effects: { state: 'returned', word: 'too much' },
    });
    expect(codes(decideReturn(asked(), ' '))).toEqual(['required']);
    expect(decideReturn(asked({ personId: 1 }), '')).toMatchObject({ ok: true, effects: { state: 'withdrawn' } });
    expect(codes(decideReturn(asked({ state: 'approved' }), 'x'))).toEqual(['asked-decided']);
  });

  it('is needed to end needing one, not to begin', () => {
    expect(decideSecondPerson(['money-out'], ['money-out', 'write-off'])).toMatchObject({
      ok: true,
      effects: { kinds: ['money-out', 'write-off'], ends: [] },
    });
    expect(decideSecondPerson(['credit-limit', 'money-out', 'write-off'], ['money-out'])).toMatchObject({
      effects: {
        ends: [{ kind: 'settings', words: 'No second person any more for credit limits, what is written off' }],
      },
    });
  });
});
