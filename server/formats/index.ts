export { agreementPdf } from './agreement-pdf';
export { tableIn, xmlIn } from './read-file';
export { ublXml } from './xml';
export { PRINT_RIGHT, printedDocument, type PrintedFile } from './printed';
export { tableFiles } from './spreadsheet';
export { csvOf } from './write-table';
