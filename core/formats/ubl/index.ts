export { at, element, type Space, type XmlElement } from './element';
export { isSameUnit, readUblOrder, ublOrder, type Against, type OrderToWrite, type WrittenOrder } from './order';
export { ublProblems } from './rules';
