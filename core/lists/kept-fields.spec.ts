import { fieldsOfKeep, stampOf } from './index';

const TERMS = { name: '30 days', days: '30' };
const typed = (change: Partial<Parameters<typeof fieldsOfKeep>[0]> = {}) => ({
  list: 'terms',
  changes: [],
  removed: [],
  ...change,
});

describe('U6 what keeping a list made another', () => {
  it('is told cell by cell of what was read, what is new, and what was taken out', () => {
    expect(
      fieldsOfKeep(
        typed({
          changes: [
            { id: 4, stamp: stampOf(TERMS), cells: { name: '30 days net', days: ' 35 ' } },
            { id: 5, stamp: stampOf(TERMS), cells: { ...TERMS } },
            { id: null, stamp: '', cells: { name: '7 days', days: '7' } },
          ],
          removed: [{ id: 6, stamp: stampOf({ name: '90 days', days: '90' }) }],
        }),
      ),
    ).toEqual([
      { what: 'Payment terms 30 days, Name', was: '30 days', is: '30 days net' },
      { what: 'Payment terms 30 days, Days', was: '30', is: '35' },
      { what: 'Payment terms 7 days', was: '', is: 'new' },
      { what: 'Payment terms 90 days', was: 'there', is: 'taken out' },
    ]);
  });

  it('leaves what is only shown, and tells of a cell that was emptied', () => {
    const account = { code: '1200', name: 'Receivable', role: 'receivable' };
    expect(
      fieldsOfKeep(
        typed({
          list: 'accounts',
          changes: [{ id: 1, stamp: stampOf(account), cells: { code: '1201', name: '', role: 'x' } }],
        }),
      ),
    ).toEqual([
      { what: 'Accounts 1200, Code', was: '1200', is: '1201' },
      { what: 'Accounts 1200, Name', was: 'Receivable', is: '' },
    ]);
  });

  it('stays short, and reads no stamp of another hand', () => {
    const changes = Array.from({ length: 50 }, (_, at) => ({
      id: null,
      stamp: '',
      cells: { name: `T${at}`, days: '1' },
    }));
    const fields = fieldsOfKeep(typed({ changes }));
    expect(fields).toHaveLength(41);
    expect(fields.at(-1)).toEqual({ what: 'and 10 more', was: '', is: '' });
    expect(fieldsOfKeep(typed({ changes: changes.slice(0, 40) }))).toHaveLength(40);
    expect(fieldsOfKeep(typed({ removed: [{ id: 1, stamp: 'no stamp' }] }))).toEqual([
      { what: 'Payment terms ', was: 'there', is: 'taken out' },
    ]);
    expect(fieldsOfKeep(typed({ list: 'nothing', changes }))).toEqual([]);
  });
});
