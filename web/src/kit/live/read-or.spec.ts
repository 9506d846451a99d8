import { TestBed } from '@angular/core/testing';
import { Subject } from 'rxjs';
import { readOr } from './read-or';

describe('what a page reads to choose from', () => {
  const reading = () => {
    const from = new Subject<string[]>();
    return { from, found: TestBed.runInInjectionContext(() => readOr(from, ['none'])) };
  };

  it('is there once it came', () => {
    const { from, found } = reading();
    expect(found()).toEqual(['none']);
    from.next(['a', 'b']);
    expect(found()).toEqual(['a', 'b']);
  });

  it('breaks no page where it cannot be read', () => {
    const { from, found } = reading();
    from.error(new Error('away'));
    expect(found()).toEqual(['none']);
  });
});
