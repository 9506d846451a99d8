import { readPastedReleases, readTypedReminders, readTypedTiers, typedRemindersOf, typedTiersOf } from './agreement';

describe('rebate tiers as typed', () => {
  it('are read with and without per cent signs, and written back', () => {
    const tiers = readTypedTiers('10,000: 2 %; 25000:3\n 50000: 5%');
    expect(tiers).toEqual([
      { from: '10000', rate: '2' },
      { from: '25000', rate: '3' },
      { from: '50000', rate: '5' },
    ]);
    expect(typedTiersOf({ kind: 'whole', by: 'value', tiers })).toBe('10000: 2 %; 25000: 3 %; 50000: 5 %');
    expect(typedTiersOf({ kind: 'whole', by: 'quantity', tiers: tiers.slice(0, 1) })).toBe('10000: 2');
  });

  it('keep what cannot be read', () => {
    expect(readTypedTiers('many: few')).toEqual([{ from: 'many', rate: 'few' }]);
    expect(readTypedTiers(' ')).toEqual([]);
  });
});

describe('reminders as typed', () => {
  it('are read and written back', () => {
    const reminders = readTypedReminders('30 days; 80 %; pace −15; 1 day');
    expect(reminders).toEqual([
      { kind: 'days', at: '30' },
      { kind: 'fulfilled', at: '80' },
      { kind: 'pace', at: '-15' },
      { kind: 'days', at: '1' },
    ]);
    expect(readTypedReminders(typedRemindersOf(reminders))).toEqual(reminders);
  });

  it('keep what is none of these for the refusal to name', () => {
    expect(readTypedReminders('soon')).toEqual([{ kind: 'days', at: 'soon' }]);
  });
});

describe('rows pasted from a spreadsheet', () => {
  const read = (text: string) =>
    readPastedReleases(text, '2027-03-01').map(({ item, quantity, day, problem }) => [item, quantity, day, problem]);

  it('are read with tabs, semicolons or commas between', () => {
    expect(read('RO-4040\t12\t12/3\r\nFC-20; 1,250; 2027-04-01\n\nFC-10, 500')).toEqual([
      ['RO-4040', '12', '2027-03-12', ''],
      ['FC-20', '1250', '2027-04-01', ''],
      ['FC-10', '500', null, ''],
    ]);
  });

  it('say what cannot be read, row by row', () => {
    expect(read('RO-4040\ta dozen\t12/3\nRO-4040\t12\t99/99\nRO-4040')).toEqual([
      ['RO-4040', 'a dozen', '2027-03-12', 'a dozen is not a quantity'],
      ['RO-4040', '12', null, '99/99 is not a date'],
      ['RO-4040', '', null, 'give an item and a quantity'],
    ]);
  });
});
