export { giveRole, makeCompany, makePerson } from './company';
