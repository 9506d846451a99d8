export { agreementPdf } from './agreement-pdf';
export { PRINT_RIGHT, printedDocument, type PrintedFile } from './printed';
export { tableFiles } from './spreadsheet';
