import { Component, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Stage } from '../../test/stage';
import { NumbersField } from './numbers-field';

const here = (pattern: string | null, ...numbers: [string, string?, boolean?][]) => ({
  pattern,
  next: 'P-07',
  location: 0,
  rows: numbers.map(([number, held = '', own = false], id) => ({ id, number, place: 'ours', held, own })),
});

@Component({
  imports: [NumbersField],
  template: `<k-numbers-field
    [item]="{ id: 9, number: 'PM-15', unit: 'piece' }"
    [way]="way()"
    [many]="many()"
    [limited]="limited()"
    [(value)]="value"
    [proposed]="proposed()"
    error=""
  />`,
})
class Host {
  static way: 'in' | 'out' = 'out';
  static proposed: string[] = [];
  static limited = true;
  protected readonly way = signal(Host.way);
  protected readonly many = signal('2');
  protected readonly limited = signal(Host.limited);
  protected readonly proposed = signal(Host.proposed);
  protected readonly value = signal<readonly string[]>([]);
}

/** The numbers that are said, or that it does by itself. */
const chosen = (stage: Stage) =>
  [...stage.element.querySelectorAll('button.number')].map((each) => each.textContent!.trim());
const byItself = (stage: Stage) => stage.element.querySelectorAll('button.by-itself').length;
const field = (stage: Stage) => stage.element.querySelector('input')!;
const type = async (stage: Stage, text: string) => {
  const input = field(stage);
  input.value = text;
  input.dispatchEvent(new Event('input'));
  input.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', cancelable: true }));
  await stage.rests();
};
const staged = (way: 'in' | 'out', proposed: string[], reads: object) => {
  Host.way = way;
  Host.proposed = proposed;
  return Stage.of(Host, { reads: () => reads });
};

describe('P6 the numbers of pieces that move', () => {
  it('shows what goes by itself, and takes others in their place by a press', async () => {
    const stage = await staged('out', ['P-1', 'P-2'], here('', ['P-1'], ['P-2'], ['P-3'], ['P-4', 'SO-7 line 1']));
    expect([chosen(stage), byItself(stage)]).toEqual([['P-1', 'P-2'], 2]);
    const offered = [...stage.element.querySelectorAll<HTMLButtonElement>('.offered button')];
    expect(offered.map((each) => [each.textContent!.trim(), each.disabled])).toEqual([
      ['P-3', false],
      ['P-4', true],
    ]);
    offered[0]!.click();
    await stage.rests();
    expect([chosen(stage), byItself(stage)]).toEqual([['P-1', 'P-3'], 0]);
    await stage.press('Leave P-1 out');
    expect(chosen(stage)).toEqual(['P-3']);
    expect(stage.text()).toContain('1 of 2 pieces');
  });

  it('leaves all that were told where pieces are counted', async () => {
    Host.limited = false;
    const stage = await staged('out', [], here('', ['P-1'], ['P-2'], ['P-3']));
    Host.limited = true;
    for (const at of [0, 0, 0]) {
      stage.element.querySelectorAll<HTMLButtonElement>('.offered button')[at]!.click();
      await stage.rests();
    }
    expect(chosen(stage)).toEqual(['P-1', 'P-2', 'P-3']);
  });

  it('takes what is scanned, typed or pasted, each once', async () => {
    const stage = await staged('out', ['P-1', 'P-2'], here('', ['P-1'], ['P-2']));
    await type(stage, 'X-1');
    expect(chosen(stage)).toEqual(['X-1']);
    await type(stage, 'x-1, X-2;X-3');
    expect(chosen(stage)).toEqual(['X-1', 'X-2', 'X-3']);
    const paste = new Event('paste', { cancelable: true }) as ClipboardEvent;
    Object.defineProperty(paste, 'clipboardData', { value: { getData: () => 'X-4\nX-5' } });
    field(stage).dispatchEvent(paste);
    await stage.rests();
    expect(chosen(stage)).toEqual(['X-1', 'X-2', 'X-3', 'X-4', 'X-5']);
  });

  it('says how numbers that come are made, or that each is to be typed', async () => {
    expect((await staged('in', [], here('P-##'))).text()).toContain('left empty they are made: P-07 and on');
    TestBed.resetTestingModule();
    expect((await staged('in', [], here(''))).text()).toContain('one for each that comes');
  });

  it('is not there for what has no numbers', async () => {
    const stage = await staged('out', [], here(null));
    expect(stage.element.querySelector('input')).toBeNull();
  });
});
