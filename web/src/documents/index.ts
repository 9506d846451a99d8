// What other rooms use of this one.
export { DocumentDock } from './dock';
export { PaperActs } from './paper-acts';
export { SendSheet } from './send-sheet';
