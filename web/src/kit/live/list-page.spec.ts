import { TestBed } from '@angular/core/testing';
import { Title } from '@angular/platform-browser';
import { ActivatedRoute, convertToParamMap, type ParamMap } from '@angular/router';
import { BehaviorSubject, of } from 'rxjs';
import { DocumentList } from './list-page';

interface Row {
  id: number;
  number: string;
}
interface Query {
  q?: string;
  side?: string;
  state?: string;
  customerId?: string;
  cursor?: string;
}

/** A list of orders under the given address; what it asked for, newest last. */
function listAt(address: Record<string, string>) {
  const params = new BehaviorSubject<ParamMap>(convertToParamMap(address));
  TestBed.configureTestingModule({ providers: [{ provide: ActivatedRoute, useValue: { queryParamMap: params } }] });
  const asked: Query[] = [];
  const list = TestBed.runInInjectionContext(
    () =>
      new DocumentList<Query, Row>({
        head: 'Orders',
        sub: () => (list.filterValue('side') === 'customer' ? 'from customers' : 'from vendors'),
        filters: [
          {
            name: 'side',
            label: 'Side',
            chips: [
              ['customer', 'Customers'],
              ['vendor', 'Vendors'],
            ],
          },
          {
            name: 'state',
            label: 'State',
            chips: [
              ['', 'All'],
              ['draft', 'Draft'],
            ],
          },
        ],
        narrows: [{ name: 'customerId', label: 'Customer', kind: 'brought', words: (id) => `no. ${id}` }],
        load: (query) => {
          asked.push(query);
          const rows = query.cursor
            ? [{ id: 3, number: 'SO-0003' }]
            : [1, 2].map((id) => ({ id, number: `SO-000${id}` }));
          return of({ rows, next: query.cursor ? null : 'after-2' });
        },
        kinds: ['SO'],
        document: ({ id, number }) => ({ kind: 'SO', id, number }),
        columns: () => [],
        empty: 'No order fits.',
      }),
  ) as DocumentList<Query, Row>;
  TestBed.tick();
  const go = (to: Record<string, string>) => {
    params.next(convertToParamMap(to));
    TestBed.tick();
  };
  return { list, asked, go };
}

describe('a list of documents', () => {
  it('asks for what its address says, and for the first chip where the address says nothing', () => {
    const { asked, list, go } = listAt({ q: 'rope', customerId: '7', stranger: 'x' });
    expect(asked).toEqual([{ q: 'rope', side: 'customer', customerId: '7' }]);
    expect(list.sub()).toBe('from customers');
    go({ side: 'vendor', state: 'draft' });
    expect(asked.at(-1)).toEqual({ side: 'vendor', state: 'draft' });
    expect(list.sub()).toBe('from vendors');
    expect(TestBed.inject(Title).getTitle()).toBe('Orders · Kampong');
  });

  it('reads on by the cursor, with the same question', () => {
    const { asked, list } = listAt({ q: 'rope' });
    list.rows.more();
    expect(asked.at(-1)).toEqual({ q: 'rope', side: 'customer', cursor: 'after-2' });
    expect(list.rows.rows().map((row) => row.id)).toEqual([1, 2, 3]);
    list.rows.more();
    expect(asked).toHaveLength(2);
  });

  it('is about the first row, or the one chosen, and leads to it', () => {
    const { list } = listAt({});
    expect(list.about()).toEqual({ kind: 'SO', id: 1, number: 'SO-0001' });
    list.chosen.set('2');
    expect(list.about()).toEqual({ kind: 'SO', id: 2, number: 'SO-0002' });
    expect(list.pathTo(list.row()!)).toBe('/orders/2');
  });
});
