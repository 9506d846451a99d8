import {
  addDays,
  currencyPlaces,
  dec,
  documentTotals,
  isDecimalText,
  isDay,
  known,
  least,
  ownOf,
  roundHalfAway,
  sum,
  ZERO,
  type Both,
  type Day,
  type Dec,
  type Exchange,
  type ExchangeOf,
} from '@core/kernel';
import { rateRefusals, type Part } from '@core/ledger';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { ownTotals, type InvoiceTax, type OwnTotals } from './customer-invoice';

/** A receipt line the vendor has not wholly invoiced, oldest first. */
export interface ReceivedLine {
  receiptLineId: number;
  purchaseLineId: number;
  lineNo: number;
  /** Received on this line and not invoiced. */
  open: string;
  /** Received cost still waiting for an invoice, for the whole of `open`; and the same in the purchase's currency. */
  openCost: string;
  openValue: string;
  unitPrice: string;
  drop: boolean;
  /** True for a drop shipment whose customer is not invoiced for this part yet. */
  customerWaits: boolean;
  orderNumber: string | null;
  taxCode: string;
  taxCodeId: number;
  taxRate: string;
  /** The buying agreement's line it counts on. */
  agreementLineId: number | null;
  /** Of a purchase line at a mixed price: its amount and what of it is under the agreement. // A5 */
  mixed: { amount: string; agreed: string } | null;
}

export interface VendorInvoiceGround {
  purchase: { id: number; number: string; vendorId: number; currency: string };
  /** What its currency was worth on the day of the invoice. // P8 */
  exchange: ExchangeOf;
  vendor: { name: string; termsDays: number };
  /** Ordered and not invoiced on the whole purchase order. */
  uninvoiced: string;
  lines: readonly ReceivedLine[];
  /** The taxes there are, where a line may say another than its purchase's. */
  taxes: readonly { id: number; code: string; rate: string }[];
  /** Our number of the invoice that has this vendor's number already. */
  usedBy: string | null;
  /** The company invoices the customer of a drop shipment first. */
  customerFirst: boolean;
}

export interface VendorInvoiceTyped {
  vendorNumber: string;
  invoiceDate: Day | null;
  lines: TypedLine[];
}

interface TypedLine {
  purchaseLineId: number;
  quantity: string;
  unitPrice: string;
  /** Another tax than the purchase's, where the invoice says so. */
  taxCodeId?: number | undefined;
}

export interface VendorInvoiceEffects {
  purchaseId: number;
  vendorId: number;
  vendorNumber: string;
  currency: string;
  invoiceDate: Day;
  dueDate: Day;
  net: string;
  tax: string;
  total: string;
  rate: string;
  own: OwnTotals;
  /** What is posted, in both currencies. // P3 P8 */
  posted: {
    received: Both;
    dropDifference: Both;
    /** What of it is of which purchase line. */
    dropParts: Part[];
    stockDifference: Both;
    net: Both;
    tax: Both;
  };
  /** True where the purchase order has nothing left to do. */
  closes: boolean;
  taxes: InvoiceTax[];
  lines: {
    receiptLineId: number;
    purchaseLineId: number;
    quantity: string;
    unitPrice: string;
    net: string;
    /** Received cost this part clears, and the same in the purchase's currency. */
    received: string;
    receivedValue: string;
    /** What the vendor asks beyond that, in the company's currency at the rate of the invoice. // P8 */
    priceDifference: string;
    agreementLineId: number | null;
    /** What of the net counts against the agreement where that is not the whole. */
    agreedNet: string | null;
    taxCodeId: number;
    taxRate: string;
  }[];
}

type Matched = VendorInvoiceEffects['lines'][number] & { taxCode: string; drop: boolean };

/**
 * The vendor's invoice for what was received: matched to receipts oldest first, in parts if need be.
 * Its own number is needed and is unique for the vendor. // P3 P4 P7
 */
export function decideVendorInvoice(
  ground: VendorInvoiceGround,
  typed: VendorInvoiceTyped,
  workDate: Day,
): Decision<VendorInvoiceEffects> {
  const refusals = headRefusals(ground, typed, workDate);
  const matched: Matched[] = [];
  const wanted = typed.lines.map((line, index) => ({ ...line, index })).filter((line) => line.quantity.trim() !== '');
  if (ground.lines.every((line) => dec(line.open).lte(0))) {
    refusals.push(refuse('nothing-to-invoice', '', { document: ground.purchase.number }));
  } else if (wanted.length === 0) {
    refusals.push(refuse('nothing-asked', 'lines', { what: 'a quantity' }));
  }
  for (const line of wanted) {
    const found = lineRefusals(ground, line);
    refusals.push(...found);
    if (found.length === 0 && ground.exchange.rate !== null)
      matched.push(...match(ground, line, known(ground.exchange)));
  }
  return decided(refusals, () => effectsOf(ground, typed, matched, known(ground.exchange)));
}

function headRefusals(ground: VendorInvoiceGround, typed: VendorInvoiceTyped, workDate: Day): Refusal[] {
  const refusals: Refusal[] = [];
  const number = typed.vendorNumber.trim();
  if (number === '') {
    refusals.push(refuse('required', 'vendorNumber', { what: "The vendor's own invoice number" }));
  } else if (ground.usedBy) {
    refusals.push(
      refuse('vendor-number-used', 'vendorNumber', {
        vendor: ground.vendor.name,
        number,
        invoice: ground.usedBy,
      }),
    );
  }
  if (typed.invoiceDate === null) {
    refusals.push(refuse('required', 'invoiceDate', { what: 'The invoice date' }));
  } else if (!isDay(typed.invoiceDate) || typed.invoiceDate > workDate) {
    refusals.push(refuse('not-a-day', 'invoiceDate', { what: 'An invoice date after the work date' }));
  } else refusals.push(...rateRefusals(ground.exchange, 'invoiceDate'));
  const waits = ground.lines.find((line) => line.customerWaits);
  if (ground.customerFirst && waits?.orderNumber) {
    refusals.push(refuse('customer-invoice-first', '', { order: waits.orderNumber }));
  }
  return refusals;
}

function lineRefusals(ground: VendorInvoiceGround, line: TypedLine & { index: number }): Refusal[] {
  const at = (field: string) => `lines.${line.index}.${field}`;
  const received = ground.lines.filter((each) => each.purchaseLineId === line.purchaseLineId);
  if (received.length === 0) return [refuse('unknown', at('purchaseLineId'), { what: 'This line' })];
  const refusals: Refusal[] = [];
  if (!isDecimalText(line.unitPrice, 'price') || dec(line.unitPrice).lt(0)) {
    refusals.push(refuse('not-a-number', at('unitPrice'), { what: 'The price' }));
  }
  if (line.taxCodeId !== undefined && !ground.taxes.some(({ id }) => id === line.taxCodeId))
    refusals.push(refuse('unknown', at('taxCodeId'), { what: 'This tax' }));
  const open = sum(received.map((each) => dec(each.open)));
  if (!isDecimalText(line.quantity, 'quantity')) {
    refusals.push(refuse('not-a-number', at('quantity'), { what: 'The quantity' }));
  } else if (dec(line.quantity).lte(0)) {
    refusals.push(refuse('not-above-zero', at('quantity'), { what: 'The quantity' }));
  } else if (dec(line.quantity).gt(open)) {
    refusals.push(
      refuse('above-received', at('quantity'), {
        purchase: ground.purchase.number,
        line: String(received[0]!.lineNo),
        asked: line.quantity,
        open: open.toFixed(),
      }),
    );
  }
  return refusals;
}

function match(ground: VendorInvoiceGround, line: TypedLine, exchange: Exchange): Matched[] {
  const places = currencyPlaces(ground.purchase.currency);
  const price = dec(line.unitPrice);
  const tax = ground.taxes.find(({ id }) => id === line.taxCodeId);
  const matched: Matched[] = [];
  let rest = dec(line.quantity);
  let reached: Dec = ZERO;
  for (const received of ground.lines) {
    if (received.purchaseLineId !== line.purchaseLineId) continue;
    const piece = least(rest, dec(received.open));
    if (piece.lte(0)) continue;
    rest = rest.minus(piece);
    const before = roundHalfAway(reached.times(price), places);
    reached = reached.plus(piece);
    const whole = piece.eq(received.open);
    const value = whole ? dec(received.openValue) : roundHalfAway(piece.times(received.unitPrice), places);
    const cost = whole || exchange.currency !== exchange.own ? costOf(received, piece, exchange) : value;
    const net = roundHalfAway(reached.times(price), places).minus(before);
    const { mixed } = received;
    matched.push({
      receiptLineId: received.receiptLineId,
      purchaseLineId: line.purchaseLineId,
      quantity: piece.toFixed(),
      unitPrice: line.unitPrice,
      net: net.toFixed(),
      agreementLineId: received.agreementLineId,
      agreedNet: mixed && roundHalfAway(net.times(mixed.agreed).div(mixed.amount), places).toFixed(),
      received: cost.toFixed(),
      receivedValue: value.toFixed(),
      priceDifference: ownOf(net.minus(value), exchange).toFixed(),
      taxCodeId: tax?.id ?? received.taxCodeId,
      taxCode: tax?.code ?? received.taxCode,
      taxRate: tax?.rate ?? received.taxRate,
      drop: received.drop,
    });
  }
  return matched;
}

/** What a piece of a received line was received at in the company's currency: the last one takes the last cent. */
function costOf({ open, openCost }: ReceivedLine, piece: Dec, { own }: Exchange): Dec {
  return piece.eq(open) ? dec(openCost) : roundHalfAway(dec(openCost).times(piece).div(open), currencyPlaces(own));
}

function effectsOf(
  ground: VendorInvoiceGround,
  typed: VendorInvoiceTyped,
  matched: readonly Matched[],
  exchange: Exchange,
): VendorInvoiceEffects {
  const { purchase, vendor } = ground;
  const totals = documentTotals(
    matched.map((line) => ({ ...line, net: dec(line.net) })),
    purchase.currency,
  );
  const own = ownTotals(totals.net, totals.tax, exchange);
  const differences = (drop: boolean): Part[] =>
    matched
      .filter((line) => line.drop === drop)
      .map((line) => ({
        id: line.purchaseLineId,
        worth: { amount: dec(line.net).minus(line.receivedValue), own: dec(line.priceDifference) },
      }));
  const difference = (drop: boolean): Both => {
    const worths = differences(drop).map(({ worth }) => worth);
    return { amount: sum(worths.map(({ amount }) => amount)), own: sum(worths.map(({ own }) => own)) };
  };
  return {
    purchaseId: purchase.id,
    vendorId: purchase.vendorId,
    vendorNumber: typed.vendorNumber.trim(),
    currency: purchase.currency,
    invoiceDate: typed.invoiceDate!,
    dueDate: addDays(typed.invoiceDate!, vendor.termsDays),
    net: totals.net.toFixed(),
    tax: totals.tax.toFixed(),
    total: totals.total.toFixed(),
    rate: exchange.rate,
    own,
    posted: {
      received: {
        amount: sum(matched.map((line) => dec(line.receivedValue))),
        own: sum(matched.map((line) => dec(line.received))),
      },
      dropDifference: difference(true),
      dropParts: differences(true),
      stockDifference: difference(false),
      net: { amount: totals.net, own: dec(own.net) },
      tax: { amount: totals.tax, own: dec(own.tax) },
    },
    closes: sum(matched.map((line) => dec(line.quantity))).gte(ground.uninvoiced),
    taxes: totals.taxes.map((tax) => ({
      taxCode: tax.taxCode,
      taxRate: tax.taxRate,
      base: tax.base.toFixed(),
      tax: tax.tax.toFixed(),
    })),
    lines: matched.map(({ taxCode: _taxCode, drop: _drop, ...line }) => line),
  };
}
