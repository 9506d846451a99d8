export { giveRole, makeCompany, makePerson, ROLES, type NewCompany } from './company';
