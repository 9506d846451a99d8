export { Actor } from './actor';
export { chanceOf, type Chance } from './chance';
export { isEmpty, layDemo, type DemoOptions } from './lay';
export { PEOPLE } from './people';
export { fixedTerm, PLAIN_HEAD } from './terms';
