import { Component, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Chips } from './chips';

@Component({
  selector: 'k-chips-host',
  imports: [Chips],
  template: '<k-chips label="State" [chips]="chips" [(value)]="value" />',
})
class Host {
  readonly value = signal('');
  readonly chips = [
    { value: '', label: 'All' },
    { value: 'draft', label: 'Draft' },
    { value: 'ended', label: 'Ended' },
  ];
}

describe('chips', () => {
  it('are one stop of the Tab key; arrows choose around the ends', async () => {
    const fixture = TestBed.createComponent(Host);
    await fixture.whenStable();
    const buttons = [...(fixture.nativeElement as HTMLElement).querySelectorAll('button')];
    const press = async (at: number, key: string) => {
      buttons[at]!.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
      await fixture.whenStable();
    };
    expect(buttons.map((button) => button.tabIndex)).toEqual([0, -1, -1]);
    await press(0, 'ArrowRight');
    expect(fixture.componentInstance.value()).toBe('draft');
    expect(buttons.map((button) => button.getAttribute('aria-checked'))).toEqual(['false', 'true', 'false']);
    await press(1, 'ArrowLeft');
    await press(0, 'ArrowLeft');
    expect(fixture.componentInstance.value()).toBe('ended');
    buttons[0]!.click();
    expect(fixture.componentInstance.value()).toBe('');
  });
});
