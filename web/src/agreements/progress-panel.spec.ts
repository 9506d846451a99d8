import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { agreementLine, agreementSheet } from '../../test/agreement';
import { Stage } from '../../test/stage';
import { LineChart, type ChartLine } from '../kit/charts/line-chart';
import { ProgressPanel } from './progress-panel';

/** Stands where the chart is drawn, and keeps what it was given. */
@Component({ selector: 'k-line-chart', template: '', changeDetection: ChangeDetectionStrategy.OnPush })
class Given {
  static lines: readonly ChartLine[] = [];
  static mark: unknown;
  readonly label = input('');
  readonly firstDay = input('');
  readonly lastDay = input('');
  readonly workDate = input('');
  readonly most = input(0, {
    transform: (value: number) => {
      Given.most = value;
      return value;
    },
  });
  static most = 0;
  readonly lines = input([], { transform: (value: readonly ChartLine[]) => (Given.lines = value) });
  readonly mark = input(null, { transform: (value: unknown) => (Given.mark = value) });
}

const progress = {
  committed: '100',
  firstDay: '2027-01-01',
  lastDay: '2027-12-31',
  shipped: '20',
  open: '20',
  planned: '10',
  rate: '0.3333',
  past: [
    { day: '2027-01-01', quantity: '0' },
    { day: '2027-02-01', quantity: '20' },
  ],
  coming: [
    { day: '2027-03-01', quantity: '20' },
    { day: '2027-12-31', quantity: '135' },
  ],
  atEnd: '135',
  remainder: '0',
  runOut: '2027-10-09',
  weightedValue: '44400',
};

async function panelOf(change: Partial<Record<keyof typeof progress, unknown>> = {}, sheet = agreementSheet()) {
  TestBed.overrideComponent(ProgressPanel, { remove: { imports: [LineChart] }, add: { imports: [Given] } });
  return Stage.of(ProgressPanel, { reads: () => ({ ...progress, ...change }) }, { sheet, line: sheet.lines[0] });
}

describe('the progress of an agreement line', () => {
  it('draws what was shipped, what is expected and the time gone, up to the higher of the ends', async () => {
    await panelOf();
    expect(Given.lines.map(({ name, points }) => [name, points.map((point) => point.value)])).toEqual([
      ['Time gone', [0, 100]],
      ['Shipped', [0, 20, 20]],
      ['Expected', [20, 135]],
    ]);
    expect(Given.most).toBe(135);
    expect(Given.mark).toEqual({ day: '2027-10-09', text: 'used up about Sat 9 Oct' });
  });

  it.each([
    [{}, 'At this pace all 100 pieces are gone by Sat 9 Oct.'],
    [{ runOut: '2027-02-20' }, 'All 100 pieces were gone by Sat 20 Feb.'],
    [{ runOut: null, remainder: '30.4' }, 'About 30 pieces of 100 will be left on Fri 31 Dec.'],
    [{ runOut: null, remainder: '0' }, 'All 100 pieces will be taken by the last day.'],
  ])('with %o it says: %s', async (change, words) => {
    expect((await panelOf(change)).text('p')).toBe(words);
  });

  it('says the pace, what is ahead and what is left by its probability', async () => {
    const said = (await panelOf()).text('dl');
    expect(said).toContain('20 % shipped, 16 % of the term gone, pace +4 %');
    expect(said).toContain('20 released, not shipped · 10 planned · 0.33 a day over 60 days');
    expect(said).toContain('about 135 of 100');
    expect(said).toContain('MYR 44,400.00');
  });

  it('counts money where the agreement is by value', async () => {
    const value = agreementSheet({
      basis: 'value',
      lines: [agreementLine({ item: null, group: { id: 4, code: 'CHEM', name: 'Salt' } })],
    });
    const panel = await panelOf({ committed: '24000', runOut: null, remainder: '9000' }, value);
    expect(panel.text('p')).toBe('About MYR 9,000.00 of 24,000.00 will be left on Fri 31 Dec.');
  });

  it('gives the same points as a table and as a file', async () => {
    const panel = await panelOf();
    const file = panel.element.querySelector('a')!;
    expect(file.getAttribute('download')).toBe('AG-0008 RO-4040.csv');
    expect(decodeURIComponent(file.href.split(',').slice(1).join(',')).split('\r\n')).toEqual([
      'day,what,reached',
      '2027-01-01,shipped,0',
      '2027-02-01,shipped,20',
      '2027-03-01,expected,20',
      '2027-12-31,expected,135',
    ]);
    await panel.press('Show as a table');
    expect(panel.rows()).toEqual([
      ['Fri 1 Jan', 'shipped', '0'],
      ['Mon 1 Feb', 'shipped', '20'],
      ['Mon 1 Mar', 'expected', '20'],
      ['Fri 31 Dec', 'expected', '135'],
    ]);
  });
});
