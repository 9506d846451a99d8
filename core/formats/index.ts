export {
  AGREEMENT_COLUMNS,
  agreementRows,
  decideImport,
  importRefusals,
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
