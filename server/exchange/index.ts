export { agreementPdf } from './agreement-pdf';
export { agreementTable, bringInAgreements } from './agreements';
export { csvOf, xlsxOf, type Table } from './tables';
export { printedDocument, type PrintedFile } from './printed';
export { bringInOrders, purchaseUbl } from './orders';
