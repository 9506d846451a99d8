export { at, element, textAt, type XmlElement } from './element';
export { readUblOrder, ublOrder, type OrderToWrite, type WrittenLine, type WrittenOrder } from './order';
export { ublProblems } from './rules';
