// What other rooms use of this one.
export { DocumentDock } from './dock';
export { DocumentDockLazy } from './lazy';
export { PaperActs } from './paper-acts';
export { SendSheet } from './send-sheet';
