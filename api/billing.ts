import * as z from 'zod';
import { CREDIT_KINDS } from '@core/billing';
import { ALLOWANCE_MEASURES } from '@core/pricing';
import {
  act,
  Day,
  DayRange,
  Decimal,
  DocumentRef,
  Id,
  IdParam,
  InOwn,
  ItemRef,
  namedOnce,
  NumbersMoved,
  page,
  Party,
  read,
  SortedQuery,
  SerialNumbers,
  Text,
  TypedDay,
  TypedDecimal,
} from './kit';
import { SerialRef } from './serial';

const Tax = z.object({ taxCode: z.string(), taxRate: Decimal, base: Decimal, tax: Decimal });

/** What a document will come to, in its currency, and in the company's where that is another. // P8 */
const Totals = z.object({
  currency: z.string(),
  net: Decimal,
  tax: Decimal,
  total: Decimal,
  own: InOwn.nullable(),
});

/** Per cent off an invoice, by the band it reached. // R2 */
const Allowed = z.object({
  measure: z.enum(ALLOWANCE_MEASURES),
  reached: Decimal,
  from: Decimal,
  perCent: Decimal,
  amount: Decimal,
});

export const InvoiceRow = z.object({
  document: DocumentRef,
  side: z.enum(['customer', 'vendor']),
  party: Party,
  source: DocumentRef,
  /** Its other orders, where it is for several. */
  alsoFor: z.array(DocumentRef),
  vendorNumber: z.string().nullable(),
  invoiceDate: Day,
  dueDate: Day,
  currency: z.string(),
  total: Decimal,
  owed: Decimal,
});

export const InvoiceSheet = InvoiceRow.extend({
  openItemId: Id,
  /** Null where its currency is the company's. // P8 */
  own: InOwn.extend({ owed: Decimal }).nullable(),
  net: Decimal,
  tax: Decimal,
  taxes: z.array(Tax),
  terms: z.string(),
  lines: z.array(
    z.object({
      id: Id,
      /** Without an id where it charges what was not taken of a group or of everything. */
      item: ItemRef.extend({ id: Id.nullable() }),
      /** Units not credited yet; null where it covers no shipment. */
      creditable: Decimal.nullable(),
      quantity: Decimal,
      unitPrice: Decimal,
      /** After its share of what is allowed on the invoice. */
      net: Decimal,
      allowance: Decimal,
      taxCode: z.string(),
      /** The shipment or receipt it covers, or the agreement it charges for. */
      covers: DocumentRef,
      orderLineId: Id.nullable(),
      /** The pieces of the shipment it covers, where they have numbers. // P6 */
      numbers: z.array(SerialRef),
      /** Vendor invoices: net less what it was received at, in the invoice's currency. */
      difference: Decimal.nullable(),
    }),
  ),
  payments: z.array(
    z.object({
      document: DocumentRef,
      paidOn: Day,
      amount: Decimal,
      /** What the payment was worth in the company's currency less what it settled. // P8 */
      difference: Decimal,
    }),
  ),
  /** Prepayments drawn and credits set off. // A12 */
  lessened: z.array(z.object({ document: DocumentRef, day: Day, amount: Decimal, how: z.string() })),
  allowances: z.array(Allowed),
  /** Vendor invoices: the one it takes back, and the one that took it back, with why. // P1 */
  reverses: DocumentRef.nullable(),
  reversedBy: DocumentRef.nullable(),
  reason: z.string(),
});

export const CreditNoteSheet = z.object({
  document: DocumentRef,
  kind: z.enum([...CREDIT_KINDS, 'rebate']),
  party: Party,
  /** The invoice it is against, or the agreement whose rebate it settles. */
  against: DocumentRef,
  /** What of it stands open. */
  openItemId: Id,
  currency: z.string(),
  creditDate: Day,
  reason: z.string(),
  net: Decimal,
  tax: Decimal,
  total: Decimal,
  own: InOwn.nullable(),
  /** Not set off yet: stands to the customer's credit. */
  left: Decimal,
  orderLineId: Id.nullable(),
  taxes: z.array(Tax),
  lines: z.array(
    z.object({
      item: ItemRef,
      quantity: Decimal,
      unitPrice: Decimal,
      net: Decimal,
      taxCode: z.string(),
      /** The pieces that came back, where they have numbers. // P6 */
      numbers: z.array(SerialRef),
    }),
  ),
  setOff: z.array(z.object({ document: DocumentRef, day: Day, amount: Decimal })),
});

export const PrepaymentSheet = z.object({
  document: DocumentRef,
  party: Party,
  /** The agreement, or the one order, it was paid ahead for. */
  heldFor: DocumentRef,
  lineNo: z.number().nullable(),
  currency: z.string(),
  takenOn: Day,
  amount: Decimal,
  left: Decimal,
  own: z.object({ currency: z.string(), rate: Decimal, amount: Decimal, left: Decimal }).nullable(),
  moves: z.array(
    z.object({
      kind: z.enum(['drawn', 'returned', 'carried']),
      amount: Decimal,
      day: Day,
      invoice: DocumentRef.nullable(),
    }),
  ),
});

export const openCreditNote = read({
  name: 'openCreditNote',
  needs: 'see-debts',
  path: '/credit-notes/:id',
  summary: 'One credit note.',
  params: IdParam,
  out: CreditNoteSheet,
});

export const openPrepayment = read({
  name: 'openPrepayment',
  needs: 'see-debts',
  path: '/prepayments/:id',
  summary: 'One prepayment with everything that moved it.',
  params: IdParam,
  out: PrepaymentSheet,
});

export const listInvoices = read({
  name: 'listInvoices',
  needs: 'see-debts',
  path: '/invoices',
  summary: 'Customer or vendor invoices, newest first or as sorted.',
  query: SortedQuery.extend({
    side: z.enum(['customer', 'vendor']).default('customer'),
    /** Those with something owed, soonest due first. */
    open: z.enum(['yes']).optional(),
    /** Their number. */
    party: z.string().max(20).optional(),
    due: DayRange,
    invoiced: DayRange,
  }),
  out: page(InvoiceRow),
});

export const openCustomerInvoice = read({
  name: 'openCustomerInvoice',
  needs: 'see-debts',
  path: '/customer-invoices/:id',
  summary: 'One customer invoice.',
  params: IdParam,
  out: InvoiceSheet,
});

export const openVendorInvoice = read({
  name: 'openVendorInvoice',
  needs: 'see-debts',
  path: '/vendor-invoices/:id',
  summary: 'One vendor invoice.',
  params: IdParam,
  out: InvoiceSheet,
});

/** What went out of a line on one shipment and is not invoiced. */
export const Uninvoiced = z.object({
  shipmentLineId: Id,
  order: DocumentRef,
  orderLineId: Id,
  lineNo: z.number(),
  reference: z.string(),
  item: ItemRef,
  shipment: DocumentRef,
  shippedOn: Day,
  open: Decimal,
  unitPrice: Decimal,
  currency: z.string(),
});

export const listUninvoiced = read({
  name: 'listUninvoiced',
  needs: 'see-debts',
  path: '/customers/:id/uninvoiced',
  summary: 'What went out to a customer and is not invoiced, by order and shipment, oldest first.',
  params: IdParam,
  out: z.object({ rows: z.array(Uninvoiced) }),
});

export const invoiceCustomer = act({
  name: 'invoiceCustomer',
  summary:
    'Invoice a customer for what was shipped and not invoiced: on one order or several, all of it or what is chosen.',
  input: z.object({
    orderId: Id,
    /** Other orders of the same customer and currency, on the same invoice. */
    others: namedOnce(z.array(Id).max(100)).default([]),
    /** Of which shipments how much; null for all that is open. */
    lines: namedOnce(z.array(z.object({ shipmentLineId: Id, quantity: TypedDecimal })).max(500), 'shipmentLineId')
      .nullable()
      .default(null),
    /** Null for today. */
    invoiceDate: TypedDay.default(null),
  }),
  preview: Totals.extend({
    invoiceDate: Day,
    dueDate: Day,
    taxes: z.array(Tax),
    /** What is drawn from prepayments by itself. // A12 */
    drawn: Decimal,
    allowances: z.array(Allowed),
    lines: z.array(
      z.object({
        shipmentLineId: Id,
        orderLineId: Id,
        quantity: Decimal,
        unitPrice: Decimal,
        net: Decimal,
        allowance: Decimal,
      }),
    ),
  }),
});

export const creditInvoice = act({
  name: 'creditInvoice',
  summary: 'Credit a customer invoice: goods that came back, a price put right, or all of it taken back.',
  input: z.object({
    invoiceId: Id,
    kind: z.enum(CREDIT_KINDS),
    reason: Text(200),
    lines: namedOnce(
      z
        .array(
          z.object({
            invoiceLineId: Id,
            quantity: TypedDecimal,
            unitPrice: TypedDecimal,
            /** Of what comes back. // P6 */
            numbers: SerialNumbers.optional(),
          }),
        )
        .max(500),
      'invoiceLineId',
    ),
  }),
  preview: Totals.extend({
    setOff: Decimal,
    taxes: z.array(Tax),
    lines: z.array(
      z.object({ invoiceLineId: Id, quantity: Decimal, uninvoiced: Decimal, unitPrice: Decimal, net: Decimal }),
    ),
    rebates: z.array(z.object({ agreementId: Id, accrued: Decimal })),
    numbers: NumbersMoved,
  }),
});

export const postShortfall = act({
  name: 'postShortfall',
  summary: 'Post the invoice draft for what was not taken of an agreement.',
  input: z.object({ id: Id }),
  preview: Totals.extend({ dueDate: Day }),
});

export const dropShortfall = act({
  name: 'dropShortfall',
  summary: 'Drop the invoice draft for a shortfall.',
  input: z.object({ id: Id }),
  preview: z.object({ agreement: z.string() }),
});

export const enterVendorInvoice = act({
  name: 'enterVendorInvoice',
  summary: "Enter the vendor's invoice for what was received and not invoiced.",
  input: z.object({
    purchaseId: Id,
    vendorNumber: Text(60),
    invoiceDate: TypedDay,
    lines: namedOnce(
      z
        .array(
          z.object({
            purchaseLineId: Id,
            quantity: TypedDecimal,
            unitPrice: TypedDecimal,
            /** Another tax than the purchase's, where the invoice says so. */
            taxCodeId: Id.optional(),
          }),
        )
        .max(500),
      'purchaseLineId',
    ),
  }),
  preview: Totals.extend({
    dueDate: Day,
    received: Decimal,
    dropDifference: Decimal,
    stockDifference: Decimal,
    /** With what the currency moved since it was received. // P8 */
    own: InOwn.extend({ exchangeDifference: Decimal }).nullable(),
  }),
});

export const takeBackInvoice = act({
  name: 'takeBackInvoice',
  summary: "Take a vendor's invoice back whole, by one below zero that names it.",
  input: z.object({ invoiceId: Id, reason: Text(200) }),
  preview: z.object({ currency: z.string(), total: Decimal, setOff: Decimal }),
});

export const recordPayment = act({
  name: 'recordPayment',
  summary: 'A customer paid an invoice, or we paid a vendor, all or part.',
  input: z.object({ openItemId: Id, amount: TypedDecimal, paidOn: TypedDay }),
  preview: z.object({
    amount: Decimal,
    side: z.enum(['customer', 'vendor']),
    /** What is paid in the company's currency, and what that differs from what the item is carried at. // P8 */
    own: z.object({ currency: z.string(), rate: Decimal, paid: Decimal, difference: Decimal }).nullable(),
  }),
});

export const OpenToInvoice = z.object({
  purchase: DocumentRef,
  vendor: Party,
  currency: z.string(),
  lines: z.array(
    z.object({
      purchaseLineId: Id,
      lineNo: z.number(),
      item: ItemRef,
      open: Decimal,
      unitPrice: Decimal,
    }),
  ),
  /** The sales order whose invoice comes first, where the company wants it so. */
  customerFirst: DocumentRef.nullable(),
});

export const openToInvoice = read({
  name: 'openToInvoice',
  path: '/purchases/:id/to-invoice',
  summary: 'What a vendor has still to invoice on a purchase order.',
  params: IdParam,
  out: OpenToInvoice,
});

export const CreditRow = z.object({
  document: DocumentRef,
  kind: z.enum([...CREDIT_KINDS, 'rebate']),
  party: Party,
  against: DocumentRef,
  creditDate: Day,
  reason: z.string(),
  currency: z.string(),
  total: Decimal,
  /** Not set off yet: stands to the customer's credit. */
  left: Decimal,
});

export const listCredits = read({
  name: 'listCredits',
  needs: 'see-debts',
  path: '/credit-notes',
  summary: 'Credit notes, newest first or as sorted.',
  query: SortedQuery.extend({
    /** Their number. */
    party: z.string().max(20).optional(),
    credited: DayRange,
    /** Those of which something stands to the customer's credit. */
    left: z.enum(['yes']).optional(),
  }),
  out: page(CreditRow),
});

export const PrepaymentRow = z.object({
  document: DocumentRef,
  party: Party,
  /** The agreement, or the one order, it was paid ahead for. */
  heldFor: DocumentRef,
  takenOn: Day,
  currency: z.string(),
  amount: Decimal,
  drawn: Decimal,
  /** Paid back, or carried on to another agreement. */
  gone: Decimal,
  left: Decimal,
});

export const listPrepayments = read({
  name: 'listPrepayments',
  needs: 'see-debts',
  path: '/prepayments',
  summary: 'Prepayments, newest first or as sorted.',
  query: SortedQuery.extend({
    party: z.string().max(20).optional(),
    taken: DayRange,
    left: z.enum(['yes']).optional(),
  }),
  out: page(PrepaymentRow),
});

/** What one party owes us, or we owe it, by how long it is due. */
export const AgeRow = z.object({
  party: Party,
  currency: z.string(),
  /** By `AGES`: not due yet, then days past due. */
  ages: z.array(Decimal),
  /** Stands to their credit, at or below zero. */
  credit: Decimal,
  total: Decimal,
  /** Their oldest due day, and how many days ago that is; null where nothing is past due. */
  oldest: Day.nullable(),
  late: z.number(),
});

export const openByAge = read({
  name: 'openByAge',
  needs: 'see-debts',
  path: '/open-by-age',
  summary: 'What is owed by party and currency, by how long it is due; the longest first.',
  query: z.object({ side: z.enum(['customer', 'vendor']).default('customer'), q: z.string().max(80).optional() }),
  out: z.object({
    rows: z.array(AgeRow),
    /** Sums by currency. */
    sums: z.array(AgeRow.pick({ currency: true, ages: true, credit: true, total: true })),
    /** More parties owe than are shown. */
    more: z.boolean(),
  }),
});

export const openItems = act({
  name: 'openItems',
  summary: 'Say what customers owed or vendors were owed before Kampong, against the opening balance.',
  input: z.object({
    side: z.enum(['customer', 'vendor']),
    /** A party may be named by several lines: each is an invoice. */
    lines: z
      .array(
        z.object({
          /** By its number or name. */
          party: Text(120),
          number: Text(60),
          invoiced: Text(20),
          due: Text(20),
          amount: TypedDecimal,
          /** The party's own where it is empty. */
          currency: Text(3),
        }),
      )
      .max(500),
  }),
  preview: z.object({ lines: z.number(), same: z.number(), own: Decimal }),
});

export const creditUses = read({
  name: 'creditUses',
  needs: 'see-debts',
  path: '/open-items/:id/uses',
  summary: 'What stands to a party’s credit, and the open invoices it may be set off against, oldest first.',
  params: IdParam,
  out: z.object({
    currency: z.string(),
    left: Decimal,
    rows: z.array(z.object({ openItemId: Id, document: DocumentRef, dueDate: Day, owed: Decimal })),
  }),
});

export const setOffCredit = act({
  name: 'setOffCredit',
  summary: 'Set what stands to a party’s credit off against open invoices of theirs.',
  input: z.object({
    creditItemId: Id,
    lines: namedOnce(z.array(z.object({ openItemId: Id, amount: TypedDecimal })).max(500), 'openItemId'),
  }),
  preview: z.object({ currency: z.string(), amount: Decimal, left: Decimal }),
});
