export {
  AGREEMENT_COLUMNS,
  agreementRows,
  decideImport,
  wholeOrGood,
  type FileTaking,
  type ExportedAgreement,
  type ImportEffects,
  type ImportGround,
  type ImportProblem,
} from './agreements';
export {
  decideOrderFile,
  ORDER_COLUMNS,
  orderOfWritten,
  ordersOfTable,
  type FileCustomer,
  type FileOrder,
  type OrderFileEffects,
} from './orders';
export * from './ubl';
