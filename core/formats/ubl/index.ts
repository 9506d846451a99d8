export { at, element, UBL_DOCUMENTS, type Space, type XmlElement } from './element';
export {
  EXCHANGED,
  readUblExchange,
  ublExchange,
  type Exchanged,
  type ExchangedDocument,
  type ExchangedLine,
} from './exchange';
export { readUblOrder, ublOrder, type Against, type OrderToWrite, type WrittenOrder } from './order';
export { ublProblems } from './rules';
export { isSameUnit } from './units';
