import { TestBed } from '@angular/core/testing';
import { of, throwError } from 'rxjs';
import { Refused } from '../kit/act/api';
import { LineOffers } from './line-offers';
import { Orders } from './service';
import { blankLine, type TypedLine } from './typed';

type Asked = readonly { itemId: number; quantity: string }[];

/** Offers of a draft beside a server that answers each request with what `answer` says. */
function offersOf(answer: (asked: Asked) => unknown) {
  const requests: Asked[] = [];
  const offers = (_customerId: number, asked: Asked) => {
    requests.push(asked);
    return answer(asked);
  };
  TestBed.configureTestingModule({ providers: [{ provide: Orders, useValue: { offers } }] });
  return { requests, of: TestBed.runInInjectionContext(() => new LineOffers()) };
}

const line = (key: string, itemId: number | null, quantity = '2'): TypedLine => ({
  ...blankLine('2027-03-01'),
  key,
  itemId,
  quantity,
});
const found = (asked: Asked) => of({ lines: asked.map(({ itemId }) => ({ listPrice: '1', offers: [{ itemId }] })) });

describe('the offers of the lines of a draft', () => {
  it('A13 are read in one request, however many lines there are, and each line and item once', () => {
    const { requests, of: offers } = offersOf(found);
    const lines = Array.from({ length: 500 }, (_, at) => line(`k${at}`, at + 1));
    const heard: boolean[] = [];
    offers.read(7, [...lines, line('blank', null)], (isOf) => heard.push(isOf(lines[499]!), isOf(line('other', 1))));
    offers.read(7, lines, () => heard.push(true));
    expect(requests.map((each) => each.length)).toEqual([500]);
    expect(offers.of(lines[41]!)).toEqual([{ itemId: 42 }]);
    expect(heard).toEqual([true, false]);
    offers.read(7, [lines[0]!, line('k1', 900)], () => undefined);
    expect(requests[1]).toEqual([{ itemId: 900, quantity: '2', shipDate: '2027-03-08' }]);
    expect(offers.of(line('k1', 900))).toEqual([{ itemId: 900 }]);
  });

  it('are asked for again where they could not be read', () => {
    const { requests, of: offers } = offersOf((asked) =>
      requests.length === 1 ? throwError(() => new Refused(0, [])) : found(asked),
    );
    offers.read(7, [line('a', 3)], () => undefined);
    expect(offers.of(line('a', 3))).toBeUndefined();
    offers.read(7, [line('a', 3)], () => undefined);
    expect(offers.of(line('a', 3))).toEqual([{ itemId: 3 }]);
  });
});
