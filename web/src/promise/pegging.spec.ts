import { Stage } from '../../test/stage';
import { PeggingPanel } from './pegging';
import type { PegRow } from './service';

const row = (depth: number, kind: string, number: string, change: Partial<PegRow> = {}): PegRow => ({
  depth,
  kind,
  id: 4,
  number,
  party: '',
  item: { id: 7, number: 'PM-15' },
  quantity: '3',
  day: '2027-03-10',
  held: false,
  work: null,
  ...change,
});

describe('pegging', () => {
  it('reads up to the customer and down to what is wanting, deeper to the right', async () => {
    const found = {
      up: [row(0, 'AS', 'AS-0002', { party: 'SK-D4' }), row(1, 'SO', 'SO-0061', { party: 'Padi Emas', held: true })],
      down: [row(0, 'stock', ''), row(0, 'missing', '', { day: null })],
    };
    const document = { kind: 'PR', id: 4, number: 'PR-0004' };
    const stage = await Stage.of(PeggingPanel, { reads: () => found }, { document });
    expect(stage.read).toEqual([{ name: 'openPegging', input: { kind: 'PR', id: 4 } }]);
    const cells = stage.rows();
    expect(cells[0]!.slice(0, 4)).toEqual(['AS-0002 SK-D4', 'PM-15', '3', 'Wed 10 Mar']);
    expect(cells[1]).toEqual(['SO-0061 Padi Emas', 'PM-15', '3', 'Wed 10 Mar', '', 'held for it']);
    expect(cells[2]![0]).toBe('what is on hand');
    expect(cells[3]!.slice(0, 4)).toEqual(['nothing yet', 'PM-15', '3', '']);
    const first = [...stage.element.querySelectorAll<HTMLElement>('tbody td:first-child')];
    const [top, below] = first.map((each) => parseFloat(each.style.paddingLeft));
    expect(below).toBeGreaterThan(top!);
    expect(stage.element.querySelector('a[href="/orders/4"]')).not.toBeNull();
  });

  it('says how far what is made is', async () => {
    const work = { state: 'running', quantity: '4', finished: '0', operation: { name: 'Weld', done: '2' } };
    const down = [
      row(0, 'PR', 'PR-1', { work: { ...work, state: 'firm' } }),
      row(0, 'PR', 'PR-2', { work }),
      row(0, 'PR', 'PR-3', { work: { ...work, finished: '1' } }),
      row(0, 'PR', 'PR-4', { work: { ...work, state: 'finished', finished: '4', operation: null } }),
      row(0, 'AS', 'AS-5', { work: { ...work, operation: null } }),
    ];
    const document = { kind: 'SO', id: 4, number: 'SO-0004' };
    const stage = await Stage.of(PeggingPanel, { reads: () => ({ up: [], down }) }, { document });
    expect(stage.rows().map((cells) => cells[4])).toEqual([
      'firm',
      'Weld 2 of 4',
      '1 of 4 made, Weld 2 of 4',
      '4 of 4 made',
      'begun',
    ]);
  });

  it('says it is for our stock where nobody waits, and reads an order downward only', async () => {
    const empty = { up: [], down: [] };
    const planned = await Stage.of(
      PeggingPanel,
      { reads: () => empty },
      { document: { kind: 'AS', id: 4, number: 'AS-0004' } },
    );
    expect(planned.text('.columns')).toContain('Nobody yet; it goes to our stock.');
    planned.close();
    const order = await Stage.of(
      PeggingPanel,
      { reads: () => empty },
      { document: { kind: 'SO', id: 4, number: 'SO-0004' } },
    );
    expect(order.text('.columns')).not.toContain('Whom it serves');
  });

  it('goes on at a sister company for who works there, and stops at her door', async () => {
    const company = { id: 2, code: 'MBF', name: 'Muara', currency: 'SGD', elsewhere: false };
    const ends = [
      { company, number: 'SO-9', side: 'down', rows: [row(0, 'PR', 'PR-7'), row(1, 'missing', '')] },
      { company, number: 'PO-3', side: 'up', rows: null },
      { company, number: 'PO-4', side: 'up', rows: [] },
    ];
    const stage = await Stage.of(
      PeggingPanel,
      { sisters: true, reads: ({ name }) => (name === 'peggingBeyond' ? { ends } : { up: [], down: [] }) },
      { document: { kind: 'SO', id: 4, number: 'SO-0004' } },
    );
    const heads = [...stage.element.querySelectorAll('h3')].map((each) => each.textContent?.trim());
    expect(heads).toEqual([
      'What serves it',
      'What serves it at Muara, SO-9',
      'Whom it serves at Muara, PO-3',
      'Whom it serves at Muara, PO-4',
    ]);
    expect(stage.text('.columns')).toContain('PR-7');
    expect(stage.text('.columns')).toContain('It goes on there, where you do not work.');
    expect(stage.text('.columns')).toContain('Nobody yet; it goes to their stock.');
    // Hers lead nowhere from here.
    expect(stage.element.querySelectorAll('section:nth-child(n + 2) a')).toHaveLength(0);
  });
});
