export { giveRole, makeCompany, makePerson, OWNER } from './company';
export { newFirstWord } from './first-word';
