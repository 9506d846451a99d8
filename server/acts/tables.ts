import { table, type Row } from '../db';

export const actKeyTable = table('act_key', {
  int: 'companyId personId',
  text: 'idempotencyKey answer=',
  time: 'createdAt=',
  bytes: 'contentHash',
});

export const auditTable = table('audit', {
  int: 'companyId id= personId',
  text: 'act origin input documents',
  time: 'at=',
});
export type Audit = Row<typeof auditTable>;

export const auditDocumentTable = table('audit_document', {
  int: 'companyId auditId documentId version?',
  text: 'kind',
});

export const numberSeriesTable = table('number_series', {
  int: 'companyId nextSerial firstSerial=',
  text: 'kind prefix=',
});

export const askedActTable = table('asked_act', {
  int: 'companyId id= personId decidedBy?',
  text: 'act input words word=',
  choice: 'state=:waiting|approved|returned|withdrawn',
  time: 'askedAt= decidedAt?',
});
export type AskedAct = Row<typeof askedActTable>;

export const secondPersonTable = table('second_person', {
  int: 'companyId',
  text: 'kind',
});

export const transactionMarkTable = table('transaction_mark', {
  text: 'token',
});
