import { Component } from '@angular/core';
import { Stage } from '../../../test/stage';
import { Sheet } from './sheet';

@Component({
  selector: 'k-any-sheet',
  imports: [Sheet],
  template: `<k-sheet head="Any" act="Do it"><input aria-label="Words" /></k-sheet>`,
})
class AnySheet {}

describe('a side sheet one leaves', () => {
  const escape = () => new KeyboardEvent('keydown', { key: 'Escape', cancelable: true });

  it('closes at once while nothing was typed: by Escape, a click outside, the cross', async () => {
    for (const leave of [
      (stage: Stage) => stage.keys.next(escape()),
      (stage: Stage) => stage.backdrop.next(new MouseEvent('click')),
      (stage: Stage) => stage.button('Close').click(),
    ]) {
      const stage = await Stage.of(AnySheet);
      stage.keys.next(new KeyboardEvent('keydown', { key: 'a' }));
      expect(stage.closed).toHaveLength(0);
      leave(stage);
      expect(stage.closed).toHaveLength(1);
      stage.close();
    }
  });

  it('asks before what was typed is lost; one goes on, throws it away, or leaves it a second time', async () => {
    const stage = await Stage.of(AnySheet);
    stage.field('Words').dispatchEvent(new Event('input', { bubbles: true }));
    const pressed = escape();
    stage.keys.next(pressed);
    await stage.rests();
    expect(stage.closed).toHaveLength(0);
    expect(pressed.defaultPrevented).toBe(true);
    expect(stage.text('[role=alert]')).toContain('What you typed here would be lost.');
    await stage.press('Go on typing');
    expect(stage.element.querySelector('[role=alert]')).toBeNull();
    stage.backdrop.next(new MouseEvent('click'));
    await stage.rests();
    await stage.press('Throw it away');
    expect(stage.closed).toHaveLength(1);
    stage.keys.next(escape());
    await stage.rests();
    expect(stage.closed).toHaveLength(2);
  });

  it('leaves at once by the button that says so', async () => {
    const stage = await Stage.of(AnySheet);
    stage.field('Words').dispatchEvent(new Event('input', { bubbles: true }));
    await stage.press('Leave it');
    expect(stage.closed).toHaveLength(1);
  });
});
