import { Component, input } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideRouter, RouteReuseStrategy, withComponentInputBinding } from '@angular/router';
import { RouterTestingHarness } from '@angular/router/testing';
import { PageForEachDocument } from './reuse';

@Component({ template: '' })
class DocumentPage {
  readonly id = input.required<string>();
  readonly at = input<string>();
  typed = '';
}

describe('a page for each document', () => {
  it('holds nothing that was typed in the one before; what is asked of the same one changes within it', async () => {
    TestBed.configureTestingModule({
      providers: [
        provideRouter([{ path: 'orders/:id', component: DocumentPage }], withComponentInputBinding()),
        { provide: RouteReuseStrategy, useClass: PageForEachDocument },
      ],
    });
    const harness = await RouterTestingHarness.create();
    const first = await harness.navigateByUrl('/orders/1', DocumentPage);
    first.typed = 'TBR-1';
    const asked = await harness.navigateByUrl('/orders/1?at=4', DocumentPage);
    expect([asked.typed, asked.at()]).toEqual(['TBR-1', '4']);
    const second = await harness.navigateByUrl('/orders/2', DocumentPage);
    expect([second.id(), second.typed]).toEqual(['2', '']);
    expect(second).not.toBe(first);
  });
});
