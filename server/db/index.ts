export { connect, type Database, type Sql, type Tx } from './database';
export { TABLE_OF } from './documents';
export { faultOf } from './faults';
export { jsonOf } from './json';
export { likeOf, pageById, PAGE_ROWS } from './paging';
export { columnOf } from './rows';
export {
  into,
  LAST_ID,
  newId,
  Piece,
  setStatement,
  TextPiece,
  type Bound,
  type Insertion,
  type Last,
  type Statement,
} from './statement';
export { table, columnsTold, type Columns, type NewRow, type Row, type Table } from './table';
export { invoiceStands, notTakenBack, stands } from './taken-back';
export { takeTurn } from './turn';
