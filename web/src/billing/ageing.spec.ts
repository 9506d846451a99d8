import { ActivatedRoute, convertToParamMap } from '@angular/router';
import { TestBed } from '@angular/core/testing';
import { of } from 'rxjs';
import { Stage } from '../../test/stage';
import { AgeingPage } from './ageing';

const row = (id: number, name: string, change = {}) => ({
  party: { id, number: `C-20${id}`, name },
  currency: 'MYR',
  ages: ['10', '0', '250.5', '0', '0'],
  credit: '0',
  total: '260.5',
  oldest: '2027-01-20',
  late: 40,
  ...change,
});

describe('what is owed by age', () => {
  it('tells each party by age, the sums in words, and offers nothing before a row is marked', async () => {
    TestBed.configureTestingModule({
      providers: [{ provide: ActivatedRoute, useValue: { queryParamMap: of(convertToParamMap({})) } }],
    });
    const stage = await Stage.of(AgeingPage, {
      reads: ({ name }) =>
        name === 'openByAge'
          ? {
              rows: [row(1, 'Teratai Bay Resort'), row(2, 'Kolam Ceria', { ages: ['5', '0', '0', '0', '0'], late: 0 })],
              sums: [{ currency: 'MYR', ages: ['15', '0', '250.5', '0', '0'], credit: '-3', total: '262.5' }],
              more: false,
            }
          : { rows: [] },
    });
    expect(stage.text('.remark')).toBe('MYR 262.50, of it 250.50 past due; −3.00 stands to credit');
    expect(stage.element.textContent).toContain('what customers owe us, by how long it is due on Mon 1 Mar');
    expect(stage.element.textContent).not.toContain('Draft');
  });
});
