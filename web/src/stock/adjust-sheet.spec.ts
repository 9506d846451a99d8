import { refusal, Stage } from '../../test/stage';
import { AdjustSheet, type AdjustData } from './adjust-sheet';

const data: AdjustData = {
  currency: 'MYR',
  row: {
    item: { id: 10, number: 'GAC-25', name: 'Activated carbon', unit: 'bag' },
    location: { id: 0, name: 'Main store' },
    onHand: '12',
    held: '5',
    free: '7',
    coming: '0',
    worth: '1500',
  },
};

describe('putting stock right', () => {
  it('sends what was seen with what is there, and says what that is worth', async () => {
    const stage = await Stage.of(AdjustSheet, {
      data,
      previews: () => ({ quantity: '-3', cost: '-375', currency: 'MYR', numbers: [] }),
    });
    expect(stage.text()).toContain('12 bags, 5 held');
    await stage.type('There are, bag', '9');
    await stage.type('Why', 'torn bags');
    expect(stage.previewed.at(-1)!.input).toEqual({
      itemId: 10,
      locationId: 0,
      was: '12',
      now: '9',
      unitCost: '',
      reason: 'torn bags',
    });
    expect(stage.text('footer')).toContain('3 bags fewer, MYR 375.00 to stock differences');
    await stage.send();
    expect(stage.acted[0]!.input).toMatchObject({ now: '9' });
  });

  it('asks what one costs only of what is more than was known', async () => {
    const stage = await Stage.of(AdjustSheet, {
      data,
      previews: () => ({ quantity: '1', cost: '', currency: 'MYR', numbers: [] }),
    });
    expect(stage.text()).not.toContain('What one of them cost');
    await stage.type('There are, bag', '13');
    await stage.type('What one of them cost, MYR', '130');
    expect(stage.previewed.at(-1)!.input).toMatchObject({ now: '13', unitCost: '130' });
    // Whoever is not told costs reads how many alone.
    expect(stage.text('footer')).toContain('1 bag more from stock differences');
    await stage.type('There are, bag', '11');
    expect(stage.previewed.at(-1)!.input).toMatchObject({ now: '11', unitCost: '' });
  });

  it('says at the number what is held', async () => {
    const stage = await Stage.of(AdjustSheet, {
      data,
      previews: () => ({ refusals: [refusal('below-held', 'now', '5 are held for orders.')], effects: null }),
    });
    await stage.type('There are, bag', '4');
    expect(stage.text()).toContain('5 are held for orders.');
  });
});
