export { agreementPdf } from './agreement-pdf';
export { printedDocument, type PrintedFile } from './printed';
export { tableFiles } from './spreadsheet';
