import { table, type Row } from '../db';

export const sisterTable = table('sister', {
  int: 'companyId sisterId customerId? vendorId? transitDays= holdDays=',
  choice: 'transfer=:ordinary|list-less|cost-plus',
  decimal: 'perCent=',
  boolean: 'takesFitting=',
});
export type Sister = Row<typeof sisterTable>;

export const sisterItemTable = table('sister_item', {
  int: 'lowId highId lowItemId highItemId',
  decimal: 'factor=',
});

export const sisterAddressTable = table('sister_address', { int: 'sellerId shipToId buyerId buyerShipToId' });

export const sisterLineTable = table('sister_line', {
  int: 'sellerId salesLineId buyerId purchaseLineId',
  decimal: 'factor=',
});

export const sisterTaxTable = table('sister_tax', { int: 'companyId sisterId theirTaxCodeId taxCodeId' });

export const sisterHoldTable = table('sister_hold', {
  int: 'id= sellerId orderId buyerId orderLineId heldLine?',
  day: 'untilDay',
  choice: 'state=:held|used|lapsed|let-go',
});

export const sisterMoveTable = table('sister_move', { int: 'sellerId shipmentId buyerId receiptId' });

export const elsewhereDocumentTable = table('elsewhere_document', {
  int: 'companyId id= toId',
  choice: 'kind:order|purchase|receipt|invoice',
  text: 'number currency label= street= postcode= town= country=',
  decimal: 'total=',
  day: 'day',
});

export const elsewhereLineTable = table('elsewhere_line', {
  int: 'companyId id= documentId lineNo itemId lineId?',
  decimal: 'quantity price=',
  day: 'day?',
  text: 'despatch= numbers=',
});

export const elsewhereDueTable = table('elsewhere_due', {
  int: 'offerId companyId',
  day: 'sentOn?',
  boolean: 'waits?',
});

export const offerTable = table('offer', {
  int: 'id= companyId fromId sourceId revision= takenRevision= takenId?',
  choice: 'kind:order|purchase|receipt|invoice state=:open|aside|returned|taken|folded|dropped',
  text: 'number reason=',
  day: 'untilDay?',
  time: 'at=',
  boolean: 'gone= takenGone= waits?',
});
export type Offer = Row<typeof offerTable>;
