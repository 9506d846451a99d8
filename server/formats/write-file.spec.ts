import { madeFile, type WriteAsk } from './write-file';
import type { Table } from './write-table';

const table = (rows: number): Table => [
  ['Item', 'Quantity'],
  ...Array.from({ length: rows }, (_, at) => [`RO-${at}`, String(at)]),
];
const sheet = (rows: number): WriteAsk => ({ kind: 'xlsx', name: 'items', table: table(rows) });
const by = (person: number, signal = new AbortController().signal) => ({ person, signal });
/** Long enough to be stopped in the middle. */
const LONG = 150_000;

describe('files made on threads', () => {
  it('are those their data say', async () => {
    const csv = await madeFile({ kind: 'csv', table: table(2) }, by(1));
    expect(csv.toString()).toBe('\uFEFFItem,Quantity\r\nRO-0,0\r\nRO-1,1\r\n');
    expect((await madeFile(sheet(2), by(1))).subarray(0, 2).toString()).toBe('PK');
    const unset = { number: 'SO-0001', party: 'Teratai Bay Resort', company: 'Hulu Bening', content: ['One line'] };
    const pdf = await madeFile({ kind: 'pdf', unset }, by(1));
    expect(pdf.subarray(0, 5).toString()).toBe('%PDF-');
  });

  it("are made one after the other for each person, and nobody else's wait for them", async () => {
    const ends: string[] = [];
    const ask = (who: number, rows: number, name: string) => madeFile(sheet(rows), by(who)).then(() => ends.push(name));
    await Promise.all([ask(1, 30_000, 'long'), ask(1, 1, 'behind it'), ask(2, 1, 'another')]);
    expect(ends).toEqual(['another', 'long', 'behind it']);
  });

  it('are given up where nobody wants them any more: while they wait, and in the middle', async () => {
    const middle = new AbortController();
    const waits = new AbortController();
    const long = madeFile(sheet(LONG), by(3, middle.signal));
    const behind = madeFile(sheet(1), by(3, waits.signal));
    waits.abort();
    setTimeout(() => middle.abort(), 50);
    await expect(long).rejects.toMatchObject({ name: 'AbortError' });
    await expect(behind).rejects.toMatchObject({ name: 'AbortError' });
    // The person's next one is made.
    expect((await madeFile(sheet(1), by(3))).length).toBeGreaterThan(100);
  });

  it('leave the thread of the server free while they are made', async () => {
    let ended = false;
    const made = madeFile(sheet(LONG / 3), by(4)).finally(() => (ended = true));
    let turns = 0;
    while (!ended) {
      turns += 1;
      await new Promise(setImmediate);
    }
    await made;
    // Made here, it would have let go of the thread a handful of times.
    expect(turns).toBeGreaterThan(1000);
  });
});
