export { Actor } from '../server/sample/actor';
export { layBulk, type BulkSize } from './bulk';
export { chanceOf, type Chance } from '@core/kernel';
export { isEmpty, layDemo, type DemoOptions } from './lay';
export { CHANDRA, HAFIZ, PEOPLE, SELLERS } from '../server/sample/people';
export { placeOf, type Place } from './places';
export { fixedTerm, PLAIN_HEAD } from '../server/sample/terms';
