import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import { refusal, Stage } from '../../test/stage';
import { Refused } from '../kit/act/api';
import { BarChart, type BarRow } from '../kit/charts/bar-chart';
import { FulfilmentPage } from './fulfilment';

/** Stands where bars are drawn: one button a row. */
@Component({
  selector: 'k-bar-chart',
  template: `@for (row of rows(); track $index) {
    <button type="button" (click)="chosen.emit($index)">{{ row.name }} {{ row.part }}/{{ row.whole }}</button>
  }`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
class Bars {
  readonly label = input('');
  readonly shape = input('');
  readonly words = input<unknown>();
  readonly rows = input<readonly BarRow[]>([]);
  readonly chosen = output<number>();
}

const row = (change: object) => ({
  id: 3,
  name: 'Teratai Bay Resort',
  detail: 'C-201',
  currency: 'MYR',
  agreements: 1,
  committed: '74000',
  released: '29600',
  shipped: '14800',
  invoiced: '14800',
  ...change,
});
const out = (change: object = {}) => ({
  rows: [row({}), row({ id: 4, name: 'Nilam Dialysis Centre', committed: '1000', shipped: '1200' })],
  more: false,
  largest: [
    {
      document: { kind: 'AG', id: 8, number: 'AG-0008' },
      party: { id: 3, number: 'C-201', name: 'Teratai Bay Resort' },
      value: '74000',
      share: 0.2,
      currency: 'MYR',
    },
  ],
  currency: 'MYR',
  unrated: [],
  ...change,
});

const nothingCovered = { currency: 'MYR', rows: [] };

async function pageOf(
  inputs: Record<string, string> = {},
  found: object | Error = out(),
  covered: object = nothingCovered,
) {
  TestBed.overrideComponent(FulfilmentPage, { remove: { imports: [BarChart] }, add: { imports: [Bars] } });
  const page = await Stage.of(
    FulfilmentPage,
    {
      reads: ({ name }) =>
        name === 'itemGroups'
          ? { groups: [{ id: 4, code: 'CHEM', name: 'Salt and chemicals' }], organisations: [] }
          : name === 'standingCover'
            ? covered
            : found,
    },
    inputs,
  );
  return { page, router: TestBed.inject(Router) };
}
const asked = (page: Stage) => page.read.filter((each) => each.name === 'fulfilment').at(-1)!.input;
const link = (page: Stage, text: string) =>
  [...page.element.querySelectorAll('a')].find((each) => each.textContent!.includes(text))!.getAttribute('href');

describe('fulfilment', () => {
  it('is by customer in company money until the address says otherwise', async () => {
    const { page } = await pageOf();
    expect(asked(page)).toEqual({});
    expect(page.rows()[0]!.slice(0, 8)).toEqual([
      'Teratai Bay Resort',
      'C-201',
      '1',
      'MYR',
      '74,000.00',
      '29,600.00',
      '14,800.00',
      '14,800.00',
    ]);
    expect(page.rows()[0]![8]).toContain('20 %');
  });

  it('asks for what the address holds, and gives the same to the files', async () => {
    const { page } = await pageOf({ by: 'group', money: 'own', dates: 'running', currency: 'SGD' });
    expect(asked(page)).toEqual({ by: 'group', money: 'own', dates: 'running', currency: 'SGD' });
    expect(link(page, 'CSV')).toBe('/api/fulfilment.csv?by=group&money=own&dates=running&currency=SGD');
    expect(link(page, 'XLSX')).toContain('/api/fulfilment.xlsx?by=group');
  });

  it.each([
    [{}, '/agreements?side=selling&customerId=3'],
    [{ by: 'group' }, '/agreements?side=selling&groupId=3'],
    [{ by: 'organisation' }, '/agreements?side=selling&organisationId=3'],
    [{ by: 'currency' }, '/agreements?side=selling&currency=MYR'],
    [{ by: 'agreement' }, '/agreements/3'],
    [{ side: 'buying' }, '/agreements?side=buying&q=Teratai%20Bay%20Resort'],
    [{ dates: 'passed' }, '/agreements?side=selling&dates=passed&customerId=3'],
  ])('with %o a row leads to %s', async (inputs, path) => {
    const { page } = await pageOf(inputs);
    expect(link(page, 'Teratai')).toBe(path);
  });

  it('draws no more than is committed, and a drawn row leads where its name does', async () => {
    const { page, router } = await pageOf();
    const went = jest.spyOn(router, 'navigate').mockResolvedValue(true);
    await page.press('Nilam Dialysis Centre 1000/1000');
    expect(went).toHaveBeenCalledWith(['/agreements'], { queryParams: { side: 'selling', customerId: '4' } });
  });

  it('draws nothing where amounts are in several currencies', async () => {
    const { page } = await pageOf({ money: 'own' }, out({ rows: [row({}), row({ id: 9, currency: 'SGD' })] }));
    expect(page.element.querySelector('k-bar-chart')).toBeNull();
    expect(page.element.textContent).toContain('they share no scale');
    expect(page.rows()).toHaveLength(2);
  });

  it('is a table alone where that is asked', async () => {
    const { page } = await pageOf({ shape: 'table' });
    expect(page.element.querySelector('k-bar-chart')).toBeNull();
    expect(page.rows()).toHaveLength(2);
  });

  it('changes the address where a chip is chosen, and takes narrowing off', async () => {
    const { page, router } = await pageOf({ groupId: '4' });
    const went = jest.spyOn(router, 'navigate').mockResolvedValue(true);
    await page.press('Take off Salt and chemicals');
    await page.press('Item group');
    expect(went.mock.calls.map((each) => each[1]!.queryParams)).toEqual([{ groupId: null }, { by: 'group' }]);
  });

  it('leads from each of the largest agreements into it', async () => {
    const { page } = await pageOf();
    const area = page.element.querySelector('svg a')!;
    expect(area.getAttribute('href')).toBe('/agreements/8');
    expect(area.getAttribute('aria-label')).toBe('AG-0008 with Teratai Bay Resort: MYR 74,000.00, 20 % taken');
  });

  it('says how much of a year standing orders cover, at most all of it', async () => {
    const rowOf = (id: number, name: string, standing: string, ordered: string) => ({
      customer: { id, number: `C-${id}`, name },
      standing,
      ordered,
    });
    const { page } = await pageOf({}, out(), {
      currency: 'MYR',
      rows: [rowOf(3, 'Teratai Bay Resort', '2600', '10400'), rowOf(4, 'Nilam Dialysis Centre', '900', '0')],
    });
    const cells = [...page.element.querySelectorAll('section[aria-label="Standing orders"] tbody tr')].map((each) =>
      [...each.querySelectorAll('td')].map((cell) => cell.textContent!.trim()),
    );
    expect(cells.map((each) => each.slice(0, 3))).toEqual([
      ['Teratai Bay Resort', '2,600.00', '10,400.00'],
      ['Nilam Dialysis Centre', '900.00', '0.00'],
    ]);
    expect(cells.map((each) => each[3]!.match(/\d+ %$/)?.[0])).toEqual(['25 %', '100 %']);
    const link = page.element.querySelector('section[aria-label="Standing orders"] tbody tr:last-child a')!;
    expect(link.getAttribute('href')).toBe('/customers/4');
  });

  it('draws no section of standing orders where there are none', async () => {
    const { page } = await pageOf();
    expect(page.element.querySelector('section[aria-label="Standing orders"]')).toBeNull();
  });

  it('says what is left out, and that there is nothing', async () => {
    const { page } = await pageOf({}, out({ unrated: ['IDR'], more: true }));
    expect(page.element.textContent).toContain('There is no rate for IDR on this day');
    expect(page.element.textContent).toContain('Only the 100 largest are shown');
    page.close();
    const empty = await pageOf({}, out({ rows: [], largest: [] }));
    expect(empty.page.element.textContent).toContain('No agreement fits.');
  });

  it('says what was wrong with the address', async () => {
    const { page } = await pageOf({ by: 'weather' }, new Refused(400, [refusal('bad', 'by', 'There is no such sum.')]));
    expect(page.text('[role="alert"]')).toBe('There is no such sum.');
  });
});
