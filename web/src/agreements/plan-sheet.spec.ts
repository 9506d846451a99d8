import { agreementLine, agreementSheet } from '../../test/agreement';
import { refusal, Stage } from '../../test/stage';
import { CallsSheet } from './calls-sheet';
import { PlanSheet } from './plan-sheet';
import { ReviseSheet } from './revise-sheet';
import { termsOf } from './typed';

const call = { day: '2027-04-05', quantity: '10', skipped: false, rule: '', rest: '4', made: null };
const sent = (stage: Stage) =>
  (stage.previewed.at(-1)!.input['lines'] as { agreementLineId: number; calls: Record<string, unknown>[] }[]).map(
    ({ agreementLineId, calls }) => [agreementLineId, calls.map((each) => [each['day'], each['quantity']])],
  );
const days = (stage: Stage) =>
  [...stage.element.querySelectorAll<HTMLInputElement>('td.day input')].map((each) => each.value);

describe('the call-off plan', () => {
  it('shows what is planned and what of it is released already', async () => {
    const stage = await Stage.of(PlanSheet, { data: agreementSheet({ lines: [agreementLine({ calls: [call] })] }) });
    expect(days(stage)).toEqual(['Mon 5 Apr']);
    expect(stage.rows()[0]![2]).toBe('6');
    expect(stage.text('footer')).toContain('10 of 100 RO-4040 planned, 40 released');
    expect(sent(stage)).toEqual([[11, [['2027-04-05', '10']]]]);
  });

  it('adds the dates of a recurrence, in order, and leaves a date that is planned already as it is', async () => {
    const stage = await Stage.of(PlanSheet, { data: agreementSheet({ lines: [agreementLine({ calls: [call] })] }) });
    await stage.type('Quantity each', '5');
    await stage.type('From', '5/3');
    await stage.type('Until', '5/6');
    expect(stage.text()).toContain('4 dates, the last Sat 5 Jun');
    await stage.press('Add');
    expect(sent(stage)[0]![1]).toEqual([
      ['2027-03-05', '5'],
      ['2027-04-05', '10'],
      ['2027-05-05', '5'],
      ['2027-06-05', '5'],
    ]);
  });

  it('reads how often as it is said, and says of what it cannot read how to say it', async () => {
    const stage = await Stage.of(PlanSheet, { data: agreementSheet() });
    await stage.type('Quantity each', '5');
    await stage.type('From', '5/3');
    await stage.type('Until', '30/6');
    await stage.type('Repeat', 'last working day of the month');
    expect(stage.text()).toContain('4 dates, the last Wed 30 Jun');
    await stage.type('Repeat', 'every second Tuesday, 3 times');
    expect(stage.text()).toContain('3 dates, the last Tue 6 Apr');
    await stage.type('Repeat', 'now and then');
    expect(stage.text()).toContain('Write it like: every second Tuesday');
    expect(stage.button('Add').disabled).toBe(true);
  });

  it('says which months have no such day, and takes their last one where that is chosen', async () => {
    const stage = await Stage.of(PlanSheet, { data: agreementSheet() });
    await stage.type('Quantity each', '5');
    await stage.type('From', '31/3');
    await stage.type('Until', '31/7');
    expect(stage.text('.scarce')).toContain('No 31st in Apr 2027, Jun 2027:');
    expect(stage.text()).toContain('3 dates, the last Sat 31 Jul');
    await stage.choose('take their last day');
    expect(stage.text()).toContain('5 dates, the last Sat 31 Jul');
    await stage.press('Add');
    expect(days(stage)).toEqual(['Wed 31 Mar', 'Fri 30 Apr', 'Mon 31 May', 'Wed 30 Jun', 'Sat 31 Jul']);
    await stage.type('From', '28/3');
    expect(stage.element.querySelector('.scarce')).toBeNull();
  });

  it('does not repeat without a quantity, nor over days that cannot be', async () => {
    const stage = await Stage.of(PlanSheet, { data: agreementSheet() });
    expect(stage.button('Add').disabled).toBe(true);
    await stage.type('Quantity each', '5');
    expect(stage.button('Add').disabled).toBe(false);
    await stage.type('Until', '1/1');
    expect(stage.text()).toContain('No date falls into that time.');
    expect(stage.button('Add').disabled).toBe(true);
    await stage.type('Until', '');
    expect(stage.text()).toContain('Give both days; a plan holds at most 520 dates.');
  });

  it('adds a single date a week after the last, skips one, removes one', async () => {
    const stage = await Stage.of(PlanSheet, { data: agreementSheet({ lines: [agreementLine({ calls: [call] })] }) });
    await stage.press('Add a date');
    expect(sent(stage)[0]![1]).toEqual([
      ['2027-04-05', '10'],
      ['2027-04-12', '10'],
    ]);
    await stage.choose('Skip day 1');
    expect(stage.text('footer')).toContain('10 of 100 RO-4040 planned');
    await stage.press('Remove');
    expect(sent(stage)[0]![1]).toEqual([['2027-04-12', '10']]);
  });

  it('plans each line for itself', async () => {
    const second = agreementLine({
      id: 12,
      lineNo: 2,
      item: { id: 7, number: 'FC-20', name: 'Cartridge', unit: 'piece' },
    });
    const stage = await Stage.of(PlanSheet, { data: agreementSheet({ lines: [agreementLine(), second] }) });
    await stage.choose('Item', 'FC-20, Cartridge');
    await stage.press('Add a date');
    expect(sent(stage)).toEqual([
      [11, []],
      [12, [['2027-03-02', '']]],
    ]);
  });

  it('says at its date what is refused', async () => {
    const stage = await Stage.of(PlanSheet, {
      data: agreementSheet({ lines: [agreementLine({ calls: [call] })] }),
      previews: () => ({
        refusals: [refusal('outside', 'lines.0.calls.0.quantity', 'That is more than is committed.')],
        effects: null,
      }),
    });
    expect(stage.text('tbody')).toContain('That is more than is committed.');
  });

  it('names the days ahead at which calls release themselves', async () => {
    const stage = await Stage.of(PlanSheet, { data: agreementSheet({ releaseAhead: '10' }) });
    expect(stage.text()).toContain('Each is released by itself 10 days ahead.');
  });
});

describe('releasing planned calls', () => {
  it('shows the calls up to the day as the order they become', async () => {
    const stage = await Stage.of(CallsSheet, {
      data: agreementSheet({ releaseAhead: '10' }),
      previews: () => ({
        net: '7400',
        lines: [{ item: 'RO-4040', day: '2027-03-08', quantity: '10', amount: '7400' }],
      }),
    });
    expect(stage.previewed[0]!.input).toEqual({ agreementId: 8, upTo: '2027-03-11' });
    expect(stage.rows()).toEqual([['Mon 8 Mar', 'RO-4040', '10', '7,400.00']]);
    expect(stage.text('footer')).toContain('MYR 7,400.00 before tax, in one order');
    await stage.type('Up to', '+30');
    await stage.send();
    expect(stage.acted[0]!.input).toEqual({ agreementId: 8, upTo: '2027-03-31' });
  });
});

describe('keeping a revision', () => {
  const sheet = agreementSheet();
  const effects = {
    changes: [{ what: 'Price of line 1', was: '740', is: '725' }],
    repriced: [{ order: 'SO-0048', lineNo: 1, item: 'RO-4040', was: '740', is: '725', amount: '2900' }],
    currency: 'MYR',
  };
  const stageOf = (change: object = {}) =>
    Stage.of(ReviseSheet, { data: { sheet, typed: termsOf(sheet) }, previews: () => ({ ...effects, ...change }) });

  it('shows the difference field by field before a reason is given, and asks for one when it is tried', async () => {
    const stage = await stageOf();
    expect(stage.text('h3')).toBe('1 change');
    expect(stage.rows()[0]).toEqual(['Price of line 1', '740', '725']);
    expect(stage.previewed[0]!.input['reason']).toBe('–');
    await stage.send();
    expect(stage.acted[0]!.input['reason']).toBe('');
  });

  it('reprices open lines only when that is chosen', async () => {
    const stage = await stageOf();
    await stage.type('Why', 'Prices fell');
    expect(stage.previewed.at(-1)!.input).toMatchObject({ id: 8, reason: 'Prices fell', reprice: false });
    await stage.choose('Price');
    expect(stage.previewed.at(-1)!.input).toMatchObject({ reprice: true });
    expect(stage.rows()[1]).toEqual(['SO-0048 line 1', 'RO-4040', '740.00', '725.00', '2,900.00']);
  });

  it('offers no repricing where no open line would change', async () => {
    const stage = await stageOf({ repriced: [] });
    expect(() => stage.field('Price')).toThrow('no field');
  });
});
