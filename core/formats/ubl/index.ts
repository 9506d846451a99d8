export { at, element, type XmlElement } from './element';
export { readUblOrder, ublOrder, type OrderToWrite, type WrittenOrder } from './order';
export { ublProblems } from './rules';
