import { NO_ERRORS_SCHEMA } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { RouterLink } from '@angular/router';
import { pointOf } from '@core/kernel';
import { groundRows, itemRow, moveRow } from '../../../core/promise/ground/testing';
import { Stage } from '../../test/stage';
import { Chips } from '../kit/controls/chips';
import { AvailabilityPanel } from './availability';

const EAST = 3;
const SALT = 7;
const PLACES = [
  { id: 0, code: 'MAIN', name: 'Main store' },
  { id: EAST, code: 'EAST', name: 'East coast store' },
];

/** Twenty at the main store of which six are owed; four at the east coast, and ten more on the 10th. */
const ROWS = {
  ...groundRows({
    items: [
      itemRow(SALT, { number: 'SALT', onHand: '20' }),
      itemRow(pointOf(SALT, EAST), { number: 'SALT at EAST', onHand: '4' }),
    ],
    supplies: [moveRow(pointOf(SALT, EAST), '2027-03-10', '10')],
    demands: [moveRow(SALT, '2027-03-05', '6')],
  }),
  places: PLACES,
  own: null as { day: string; planned: { number: string; quantity: string; day: string }[] } | null,
};

const chips = (stage: Stage) =>
  [...stage.element.querySelectorAll('[role="radio"]')].map((each) => each.textContent!.trim());

describe('T1 what is there of an item, by location', () => {
  const staged = (locationId: number, places = PLACES, own: (typeof ROWS)['own'] = null) => {
    // The chart needs a canvas; its table says the same.
    TestBed.overrideComponent(AvailabilityPanel, {
      set: { imports: [Chips, RouterLink], schemas: [NO_ERRORS_SCHEMA] },
    });
    return Stage.of(
      AvailabilityPanel,
      { reads: () => ({ ...ROWS, places, own }) },
      { itemId: SALT, locationId, asks: '8', by: '2027-03-08' },
    );
  };

  it('stands at the line’s location, and shows another where it is chosen', async () => {
    const stage = await staged(EAST);
    expect(stage.text()).toContain('8 SALT at EAST can be had on Wed 10 Mar');
    const places = () => chips(stage);
    // What could be had there by the day it is asked for.
    expect(places()).toEqual(['Main store: 14', 'East coast store: 4']);
    expect(stage.rows().map((row) => row.slice(3))).toEqual([
      ['4', '4', '4'],
      ['+10', '14', '14'],
    ]);
    await stage.press('Main store: 14');
    expect(stage.text()).toContain('8 SALT can be had on Mon 8 Mar');
    expect(stage.rows().map((row) => row.slice(3))).toEqual([
      ['20', '20', '14'],
      ['−6', '14', '14'],
    ]);
  });

  it('offers no choice where there is one place', async () => {
    const stage = await staged(0, PLACES.slice(0, 1));
    expect(chips(stage)).toEqual([]);
    expect(stage.text()).toContain('8 SALT can be had on Mon 8 Mar');
  });

  it('tells what was promised of the line and what comes for it alone, which is in no balance (T8)', async () => {
    const planned = [{ number: 'PR-0003', quantity: '2', day: '2027-03-24' }];
    const stage = await staged(0, PLACES, { day: '2027-03-25', planned });
    expect(stage.text('.said')).toBe('Promised for Thu 25 Mar: 2 of PR-0003 on Wed 24 Mar come for it alone');
    stage.close();
    expect((await staged(0, PLACES, { day: '2027-03-25', planned: [] })).text('.said')).toBe('Promised for Thu 25 Mar');
  });
});
