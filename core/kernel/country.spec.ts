import { countryName } from './country';

it.each([
  ['MY', 'Malaysia'],
  ['sg', 'Singapore'],
  ['', ''],
  ['Borneo', 'Borneo'],
  ['QQ', 'QQ'],
])('the country %p is %p', (code, name) => expect(countryName(code)).toBe(name));
