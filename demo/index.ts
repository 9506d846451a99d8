export { Actor } from './actor';
export { layBulk, type BulkSize } from './bulk';
export { chanceOf, type Chance } from '@core/kernel';
export { isEmpty, layDemo, type DemoOptions } from './lay';
export { PEOPLE } from './people';
export { placeOf, type Place } from './places';
export { fixedTerm, PLAIN_HEAD } from './terms';
