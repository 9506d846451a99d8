import { agreementSheet } from '../../test/agreement';
import { refusal, Stage, type Asked } from '../../test/stage';
import type { AgreementSheet } from './service';
import { WrapUpSheet } from './wrap-up-sheet';

const effects = {
  state: 'ended',
  lastDay: '2027-02-28',
  left: [{ agreementLineId: 11, item: 'RO-4040', quantity: '60' }],
  openOrders: [],
  owed: '0',
  rebate: '0',
  prepaid: '0',
  shortfall: '44400',
  renewal: null,
};
const past = agreementSheet({ firstDay: '2026-09-01', lastDay: '2027-02-28' });

const stageOf = (sheet: AgreementSheet, change: Partial<Record<keyof typeof effects, unknown>> = {}) =>
  Stage.of(WrapUpSheet, { data: sheet, previews: () => ({ ...effects, ...change }) });
const decided = (stage: Stage): Asked['input'] => stage.previewed.at(-1)!.input;

describe('the wrap-up sheet', () => {
  it('shows what is left, what is open and what is owed', async () => {
    const stage = await stageOf(past, { openOrders: [{ kind: 'SO', id: 3, number: 'SO-0003' }], owed: '8024.2' });
    const said = stage.text('dl');
    expect(said).toContain('60 of RO-4040');
    expect(said).toContain('SO-0003');
    expect(said).toContain('MYR 8,024.20');
    expect(stage.text('h2')).toContain('its last day was Sun 28 Feb');
    expect(stage.text('footer')).toContain('Orders already released keep their terms');
  });

  it('says so where nothing is left, open or owed, and then proposes to end it', async () => {
    const stage = await stageOf(agreementSheet({ ...past, usedUp: true }), { left: [] });
    const said = [...stage.element.querySelectorAll('dd')].map((each) => each.textContent!.trim());
    expect(said).toEqual(['nothing', 'none; all that was released went out', 'nothing']);
    expect(decided(stage)).toMatchObject({ decision: 'end', lastDay: null });
    expect(stage.button('End the agreement')).toBeTruthy();
  });

  it('proposes to waive where something is left', async () => {
    expect(decided(await stageOf(past))).toMatchObject({ decision: 'waive', carry: false });
  });

  it('extends from the work date where the last day is behind, and sends no day for other decisions', async () => {
    const stage = await stageOf(past);
    await stage.choose('What is decided', 'Move its last day');
    expect(decided(stage)).toMatchObject({ decision: 'extend', lastDay: '2027-05-30' });
    await stage.type('New last day', '30/4');
    expect(decided(stage)).toMatchObject({ decision: 'extend', lastDay: '2027-04-30' });
    await stage.choose('What is decided', 'Waive what is left and end it');
    expect(decided(stage)).toMatchObject({ decision: 'waive', lastDay: null });
  });

  it('renews with what is carried over, and says what draft it becomes', async () => {
    const renewal = { firstDay: '2027-03-01', lastDay: '2027-08-28', value: '44400', currency: 'MYR' };
    const stage = await stageOf(past, { renewal });
    await stage.choose('What is decided', 'End it and renew it as a draft');
    await stage.choose('Carry over what is left');
    expect(decided(stage)).toMatchObject({ decision: 'renew', carry: true });
    expect(stage.text('footer')).toContain('A draft from Mon 1 Mar to Sat 28 Aug, MYR 44,400.00');
  });

  it('charges what is left as an invoice draft, of a customer only', async () => {
    const stage = await stageOf(past);
    await stage.choose('What is decided', 'Charge what is left and end it');
    expect(stage.text('footer')).toContain('An invoice draft of MYR 44,400.00 before tax');
    expect(stage.button('Draft the charge and end')).toBeTruthy();
    stage.close();
    const buying = await stageOf(agreementSheet({ ...past, side: 'buying' }));
    await expect(buying.choose('What is decided', 'Charge what is left and end it')).rejects.toThrow('no option');
  });

  it('asks what becomes of money paid ahead, unless the agreement goes on', async () => {
    const stage = await stageOf(past, { prepaid: '11822' });
    expect(stage.text('dl')).toContain('MYR 11,822.00 left');
    await stage.choose('What is paid ahead', 'Carry it to the renewal');
    expect(decided(stage)).toMatchObject({ prepayments: 'carry' });
    await stage.choose('What is decided', 'Move its last day');
    expect(() => stage.field('What is paid ahead')).toThrow('no field');
  });

  it('reminds of a rebate that is not settled', async () => {
    expect((await stageOf(past, { rebate: '360.81' })).text('dl')).toContain('MYR 360.81; settle it after');
  });

  it('keeps the decision where it is refused, and closes with what was made where it is not', async () => {
    const stage = await Stage.of(WrapUpSheet, {
      data: past,
      previews: () => effects,
      refused: [refusal('left-not-decided', 'decision', 'Something is left; decide about it.')],
    });
    await stage.send();
    expect(stage.text()).toContain('Something is left; decide about it.');
    expect(stage.closed).toEqual([]);
    await stage.send();
    expect(stage.closed).toHaveLength(1);
  });
});
