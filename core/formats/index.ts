export { agreementRows, decideImport, wholeOrGood, type ImportGround } from './agreements';
export {
  decideOrderFile,
  ORDER_COLUMNS,
  orderOfWritten,
  ordersOfTable,
  type FileCustomer,
  type FileOrder,
} from './orders';
export * from './ubl';
export { decideLogo, MOST_LOGO } from './logo';
export { leftOut, type ImportProblem } from './left-out';
export { PAPER_WORDS, type PaperWords } from './paper-words';
