import type { DocumentKind } from '@core/kernel';

/** Where the documents of a kind stand. */
export const TABLE_OF: Readonly<Record<DocumentKind, string>> = {
  AG: 'agreement',
  SO: 'sales_order',
  PO: 'purchase_order',
  RC: 'receipt',
  SH: 'shipment',
  CI: 'customer_invoice',
  VI: 'vendor_invoice',
  CN: 'credit_note',
  PP: 'prepayment',
  PY: 'payment',
  JR: 'journal',
  PR: 'planned_order',
  AS: 'planned_order',
  PL: 'planned_order',
  WR: 'work_report',
  CT: 'count_sheet',
  SL: 'slip',
  DR: 'drawer',
  ST: 'standing_order',
  PM: 'promotion',
  VS: 'support',
  CL: 'claim',
  CS: 'commission_statement',
};
