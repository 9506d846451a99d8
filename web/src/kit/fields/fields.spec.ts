import { Component, signal, type Type } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { DayField, NumberField } from './index';

@Component({
  selector: 'k-number-host',
  imports: [NumberField],
  template: '<k-number label="Quantity" [(value)]="value" [error]="error()" />',
})
class NumberHost {
  readonly value = signal('');
  readonly error = signal('');
}

@Component({
  selector: 'k-day-host',
  imports: [DayField],
  template: '<k-day label="Last day" [(value)]="value" workDate="2027-03-01" />',
})
class DayHost {
  readonly value = signal<string | null>(null);
}

async function made<Host>(host: Type<Host>) {
  const fixture = TestBed.createComponent(host);
  await fixture.whenStable();
  const input = (fixture.nativeElement as HTMLElement).querySelector('input')!;
  return { fixture, host: fixture.componentInstance, input, type: (text: string) => type(fixture, input, text) };
}

async function type(fixture: ComponentFixture<unknown>, input: HTMLInputElement, text: string) {
  input.value = text;
  input.dispatchEvent(new Event('input'));
  await fixture.whenStable();
}

const alertOf = (fixture: ComponentFixture<unknown>) =>
  (fixture.nativeElement as HTMLElement).querySelector('[role="alert"]')?.textContent ?? '';

describe('a number field', () => {
  it('turns what is typed into plain decimal text and keeps what was typed on the screen', async () => {
    const { host, input, type } = await made(NumberHost);
    await type('1,250.50');
    expect(host.value()).toBe('1250.50');
    expect(input.value).toBe('1,250.50');
  });

  it('keeps what cannot be read, and says so at the field', async () => {
    const { fixture, host, input, type } = await made(NumberHost);
    await type('12x');
    expect(host.value()).toBe('12x');
    expect(input.getAttribute('aria-invalid')).toBe('true');
    expect(alertOf(fixture)).toBe('Not a number; write it like 1250.5.');
    await type('12');
    expect(alertOf(fixture)).toBe('');
  });

  it('shows a value set from outside, and the refusal of the server', async () => {
    const { fixture, host, input } = await made(NumberHost);
    host.value.set('7.50000');
    host.error.set('Ask 3 or less.');
    await fixture.whenStable();
    expect(input.value).toBe('7.5');
    expect(alertOf(fixture)).toBe('Ask 3 or less.');
  });
});

describe('a day field', () => {
  it.each([
    ['11/3', '2027-03-11', 'Thu 11 Mar'],
    ['+5', '2027-03-06', 'Sat 6 Mar'],
    ['fri', '2027-03-05', 'Fri 5 Mar'],
    ['31/12/28', '2028-12-31', 'Sun 31 Dec 2028'],
  ])('reads %s, and shows on leaving how it was read', async (typed, value, shown) => {
    const { fixture, host, input, type } = await made(DayHost);
    await type(typed);
    expect(host.value()).toBe(value);
    expect(input.value).toBe(typed);
    input.dispatchEvent(new Event('blur'));
    await fixture.whenStable();
    expect(input.value).toBe(shown);
  });

  it('says what it cannot read and lets it travel, so that the refusal can name it', async () => {
    const { fixture, host, type } = await made(DayHost);
    await type('31/2');
    expect(host.value()).toBe('31/2');
    expect(alertOf(fixture)).toContain('Not a date');
    await type('');
    expect(host.value()).toBeNull();
    expect(alertOf(fixture)).toBe('');
  });

  it('moves by the arrows from the work date, across a change of the clocks', async () => {
    const { host, input } = await made(DayHost);
    for (let pressed = 0; pressed < 31; pressed += 1) {
      input.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowDown' }));
    }
    expect(host.value()).toBe('2027-04-01');
    input.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowUp' }));
    expect(host.value()).toBe('2027-03-31');
  });
});
