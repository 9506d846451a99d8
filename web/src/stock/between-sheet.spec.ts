import { refusal, Stage } from '../../test/stage';
import { BetweenSheet, type BetweenData } from './between-sheet';

const MAIN = { id: 0, code: 'MAIN', name: 'Main store' };
const EAST = { id: 3, code: 'EAST', name: 'East coast store' };
const ITEM = {
  id: 9,
  number: 'GAC-25',
  name: 'Activated carbon',
  unit: 'bag',
  places: [
    { location: MAIN, onHand: '5', free: '2' },
    { location: EAST, onHand: '40', free: '40' },
  ],
} as unknown as BetweenData['item'];

describe('moving goods between our places', () => {
  const staged = (more = {}) =>
    Stage.of(BetweenSheet, { data: { item: ITEM, locations: [MAIN, EAST], currency: 'MYR' }, ...more });

  it('begins where most are free, says what they are worth, and moves them', async () => {
    const stage = await staged({ previews: () => ({ quantity: '4', value: '526', numbers: [] }) });
    await stage.type('How many, bag', '4');
    expect(stage.text()).toContain('4 at what they cost, MYR 526.00');
    await stage.send();
    expect(stage.acted).toEqual([{ name: 'moveBetween', input: { itemId: 9, from: 3, to: 0, quantity: '4' } }]);
  });

  it('sends them on their way with a day they arrive; what is under way goes nowhere else', async () => {
    const way = { location: { id: 32_767, code: 'UNDER-WAY', name: 'Under way' }, onHand: '90', free: '90' };
    const item = { ...ITEM, places: [...ITEM.places, way] };
    const stage = await staged({
      data: { item, locations: [MAIN, EAST], currency: 'MYR' },
      previews: () => ({ quantity: '4', value: '', numbers: [] }),
    });
    await stage.type('How many, bag', '4');
    await stage.type('They arrive', '8/3');
    expect(stage.text()).toContain('4, under way until');
    await stage.send();
    expect(stage.acted).toEqual([
      { name: 'moveBetween', input: { itemId: 9, from: 3, to: 0, quantity: '4', arrivesOn: '2027-03-08' } },
    ]);
  });

  it('says at its field why not', async () => {
    const stage = await staged({ refused: [refusal('above-free-there', 'quantity', 'More than is free.')] });
    await stage.type('How many, bag', '400');
    await stage.send();
    expect(stage.text()).toContain('More than is free.');
    await stage.choose('To', 'East coast store');
    expect(stage.previewed.at(-1)!.input).toMatchObject({ from: 3, to: 3 });
  });
});
