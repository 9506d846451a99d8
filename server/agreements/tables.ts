import { table, type Row } from '../db';

export const agreementTable = table('agreement', {
  int: 'companyId id= version= customerId? priority= renewedAs? vendorId? salesOrganisationId? releaseAheadDays? planShipToId?',
  choice:
    'state=:draft|in-force|paused|ended|cancelled limitPolicy:refuse|warn|keep|split wrapUp?:end|waive|renew|charge side=:selling|buying basis=:quantity|value rebateKind=:none|whole|step rebateBy=:value|quantity restPlan=:spread|last|none',
  text: 'number title= currency notes= planReference= wholeUnit=',
  day: 'firstDay lastDay signedOn? endedOn?',
  time: 'createdAt=',
  decimal:
    'tolerancePercent= wholeLimit= committedValue= releasedValue= shippedValue= invoicedValue= probabilityPercent= rebateValue= rebateQuantity= rebateAccrued= rebateSettled= rebateOwn=',
  boolean: 'freeGoodsCount= usedUp=',
});
export type Agreement = Row<typeof agreementTable>;

export const agreementBreakTable = table('agreement_break', {
  int: 'companyId agreementLineId',
  decimal: 'fromQuantity unitPrice? discountPercent?',
});

export const agreementCallTable = table('agreement_call', {
  int: 'companyId agreementLineId madeId?',
  text: 'rule= madeKind?',
  day: 'day',
  decimal: 'quantity',
  boolean: 'skipped=',
});

export const agreementLineTable = table('agreement_line', {
  int: 'companyId id= agreementId lineNo itemId? itemGroupId?',
  choice: 'priceKind=:fixed|discount|none',
  text: 'notes=',
  decimal:
    'committed= unitPrice? released= shipped= invoiced= releasedValue= shippedValue= invoicedValue= discountPercent? leastRelease= releaseMultiple= committedValue=',
});
export type AgreementLine = Row<typeof agreementLineTable>;

export const agreementRebateTierTable = table('agreement_rebate_tier', {
  int: 'companyId agreementId',
  decimal: 'fromAmount rate',
});

export const agreementReminderTable = table('agreement_reminder', {
  int: 'companyId id= agreementId',
  choice: 'kind:days|fulfilled|pace',
  day: 'firedOn? handledOn?',
  decimal: 'atValue',
});
export type AgreementReminder = Row<typeof agreementReminderTable>;

export const agreementRevisionTable = table('agreement_revision', {
  int: 'companyId agreementId revision personId repriced=',
  text: 'reason changes',
  day: 'revisedOn',
  time: 'revisedAt=',
});
export type AgreementRevision = Row<typeof agreementRevisionTable>;

export const calendarFeedTable = table('calendar_feed', {
  int: 'companyId personId',
  time: 'madeAt=',
  bytes: 'tokenHash',
});

export const rebateEntryTable = table('rebate_entry', {
  int: 'companyId id= agreementId documentId',
  text: 'documentKind',
  day: 'postedOn',
  decimal: 'value= quantity= accrued= settled= ownAccrued= ownSettled=',
});

export const shortfallDraftTable = table('shortfall_draft', {
  int: 'companyId id= agreementId customerInvoiceId?',
  choice: 'state=:draft|posted|dropped',
  day: 'madeOn',
});

export const shortfallLineTable = table('shortfall_line', {
  int: 'companyId id= shortfallDraftId agreementLineId taxCodeId',
  decimal: 'quantity unitPrice net taxRate',
});
export type ShortfallLine = Row<typeof shortfallLineTable>;

export const takenBeforeTable = table('taken_before', {
  int: 'companyId agreementLineId',
  day: 'toldOn',
  decimal: 'quantity value',
});
