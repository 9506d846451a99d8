import { rebateBalance, type RebateAccrual, type RebateState } from '@core/agreements';
import {
  addDays,
  carriedOf,
  currencyPlaces,
  dec,
  documentTotals,
  isDecimalText,
  known,
  least,
  lineAmount,
  ownOf,
  priceText,
  roundHalfAway,
  sum,
  ZERO,
  type Day,
  type Dec,
  type Exchange,
  type ExchangeOf,
  type OwedInBoth,
} from '@core/kernel';
import { rateRefusals } from '@core/ledger';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import { accrualsOf, ownTotals, type InvoiceTax, type OwnTotals } from './customer-invoice';
import { setOffOf, type SetOff } from './take-back';

/** Goods that came back, a price put right, or the whole invoice taken back. A rebate is settled apart. // P1 */
export const CREDIT_KINDS = ['return', 'price', 'reversal'] as const;
export type CreditKind = (typeof CREDIT_KINDS)[number];

/** A line of an invoice with what is not credited of it yet. */
export interface CreditableLine {
  invoiceLineId: number;
  orderLineId: number;
  agreementLineId: number | null;
  agreementId: number | null;
  item: { id: number; number: string };
  /** Where it went out from. */
  locationId: number;
  unitPrice: string;
  /** Not credited yet: units, net, and what of the net counts against the agreement where that is not the whole. */
  quantity: string;
  net: string;
  agreedNet: string | null;
  /** What the line was invoiced at, and what of it was allowed. // R2 */
  invoiced: { net: string; allowance: string };
  /** Whether a credit note has to do with it already. */
  credited: boolean;
  /** Of the shipment it covers, what did not come back: units, sales value, and cost. */
  shipped: { quantity: string; value: string; agreedValue: string | null; cost: string };
  taxCode: string;
  taxCodeId: number;
  taxRate: string;
}

export interface CreditGround {
  invoice: {
    id: number;
    number: string;
    /** Null where it opened the books: it has no lines either, and is taken back as a whole. // U3 */
    orderId: number | null;
    customerId: number;
    currency: string;
    total: string;
    /** A credit note has to do with it as a whole already. */
    credited: boolean;
    owed: OwedInBoth;
    /** The rate it was invoiced at: what is credited of it is credited at that. // P8 */
    exchange: Exchange;
    /** What it is counted by in a rebate: so are its credits. // A10 */
    day: Day;
  };
  lines: readonly CreditableLine[];
  rebates: readonly RebateState[];
}

export interface CreditTyped {
  kind: CreditKind;
  reason: string;
  /** What came back of a line, or its right price; empty ones are left out. */
  lines: { invoiceLineId: number; quantity: string; unitPrice: string }[];
}

export interface CreditEffects {
  kind: CreditKind;
  customerId: number;
  orderId: number | null;
  invoiceId: number;
  currency: string;
  creditDate: Day;
  reason: string;
  net: string;
  tax: string;
  total: string;
  rate: string;
  own: OwnTotals;
  cost: string;
  taxes: InvoiceTax[];
  /** Set off against the invoice at once; the rest stands to the customer's credit. */
  setOff: SetOff;
  rebates: RebateAccrual[];
  lines: {
    invoiceLineId: number;
    orderLineId: number;
    agreementLineId: number | null;
    itemId: number;
    /** Where it went out from, and comes back to. */
    locationId: number;
    /** What came back; `0` where only the price is put right, or the invoice taken back. */
    quantity: string;
    /** What is to be invoiced again. */
    uninvoiced: string;
    unitPrice: string;
    net: string;
    agreedNet: string | null;
    value: string;
    agreedValue: string | null;
    cost: string;
    taxCodeId: number;
    taxRate: string;
  }[];
}

/** `part` of what is left of an amount: the last unit takes the last cent. */
function partOf(left: string, part: Dec, of: string, currency: string): Dec {
  if (part.eq(of)) return dec(left);
  return roundHalfAway(dec(left).times(part).div(of), currencyPlaces(currency));
}

/**
 * A credit note against an invoice: goods that came back, credited and put on hand again at what they cost; or a lower
 * price for what was invoiced. Never more than is not credited yet. // A10 P1 P3
 */
export function decideCreditNote(ground: CreditGround, typed: CreditTyped, creditDate: Day): Decision<CreditEffects> {
  const refusals: Refusal[] = [];
  if (typed.reason.trim() === '') refusals.push(refuse('required', 'reason', { what: 'The reason' }));
  if (typed.kind === 'reversal') return decideReversal(ground, refusals, typed, creditDate);
  const cell = typed.kind === 'return' ? 'quantity' : 'unitPrice';
  const wanted = typed.lines.map((line, index) => ({ ...line, index })).filter((line) => line[cell].trim() !== '');
  if (wanted.length === 0) {
    const what = typed.kind === 'return' ? 'a quantity that came back' : 'a right price';
    refusals.push(refuse('nothing-asked', 'lines', { what }));
  }
  const lines: CreditLine[] = [];
  for (const want of wanted) {
    const line = ground.lines.find((each) => each.invoiceLineId === want.invoiceLineId);
    const field = `lines.${want.index}.${cell}`;
    const refusal = line
      ? lineRefusal(ground, line, typed.kind, want[cell], field)
      : refuse('unknown', field, { what: 'This line' });
    if (refusal) refusals.push(refusal);
    else lines.push(creditLine(line!, typed.kind, dec(want[cell]), ground.invoice.currency));
  }
  return decided(refusals, () => creditOf(ground, typed, lines, creditDate));
}

type CreditLine = CreditEffects['lines'][number] & { taxCode: string; agreementId: number | null };

/** Takes an invoice back whole: what it covered is to be invoiced again. Refused once anything of it was credited. // P1 */
function decideReversal(
  ground: CreditGround,
  refusals: Refusal[],
  typed: CreditTyped,
  creditDate: Day,
): Decision<CreditEffects> {
  const { invoice, lines } = ground;
  if (invoice.credited || lines.some((line) => line.credited))
    refusals.push(refuse('credited-already', '', { invoice: invoice.number }));
  return decided(refusals, () => {
    const taken = lines.map((line): CreditLine => ({
      ...baseOf(line),
      ...NO_GOODS,
      quantity: '0',
      uninvoiced: line.quantity,
      unitPrice: line.unitPrice,
      net: line.net,
      agreedNet: line.agreedNet,
    }));
    return creditOf(ground, typed, taken, creditDate);
  });
}

function creditOf(ground: CreditGround, typed: CreditTyped, lines: CreditLine[], creditDate: Day): CreditEffects {
  const { invoice } = ground;
  const whole = dec(invoice.total);
  const totals =
    invoice.orderId === null
      ? { net: whole, tax: ZERO, total: whole, taxes: [] }
      : documentTotals(
          lines.map((line) => ({ ...line, net: dec(line.net) })),
          invoice.currency,
        );
  const { exchange } = invoice;
  const own = ownTotals(totals.net, totals.tax, exchange);
  const lessened = lines.map((line) => ({
    ...line,
    quantity: dec(line.quantity).plus(line.uninvoiced).neg().toFixed(),
    net: dec(line.net).neg(),
    agreed: line.agreedNet === null ? null : dec(line.agreedNet).neg(),
  }));
  return {
    kind: typed.kind,
    customerId: invoice.customerId,
    orderId: invoice.orderId,
    invoiceId: invoice.id,
    currency: invoice.currency,
    creditDate,
    reason: typed.reason.trim(),
    net: totals.net.toFixed(),
    tax: totals.tax.toFixed(),
    total: totals.total.toFixed(),
    rate: exchange.rate,
    own,
    cost: sum(lines.map((line) => dec(line.cost))).toFixed(),
    taxes: totals.taxes.map((tax) => ({ ...tax, base: tax.base.toFixed(), tax: tax.tax.toFixed() })),
    setOff: setOffOf(invoice.owed, { amount: totals.total.toFixed(), own: own.total }, exchange.own),
    // What comes back of goods that were invoiced in the term lessens what was invoiced in it, whenever it comes. // A10
    rebates: accrualsOf(lessened, ground.rebates, ground.invoice.day, exchange),
    lines: lines.map(({ taxCode: _taxCode, agreementId: _agreementId, ...line }) => line),
  };
}

function lineRefusal(
  { invoice }: CreditGround,
  line: CreditableLine,
  kind: CreditKind,
  typed: string,
  field: string,
): Refusal | null {
  const what = kind === 'return' ? 'The quantity' : 'The right price';
  if (!isDecimalText(typed, kind === 'return' ? 'quantity' : 'price')) return refuse('not-a-number', field, { what });
  const item = line.item.number;
  if (kind === 'return') {
    if (dec(typed).lte(0)) return refuse('not-above-zero', field, { what });
    if (dec(typed).lte(line.quantity)) return null;
    return refuse('above-credit', field, { item, asked: typed, left: line.quantity, invoice: invoice.number });
  }
  if (dec(line.quantity).lte(0)) {
    return refuse('above-credit', field, { item, asked: typed, left: '0', invoice: invoice.number });
  }
  if (dec(typed).lt(0)) return refuse('not-above-zero', field, { what });
  const right = rightNet(line, dec(typed), invoice.currency);
  if (right.lt(line.net)) return null;
  return refuse('not-below-invoiced', field, { item, price: priceText(line.unitPrice, invoice.currency) });
}

/** What a line should have come to at the right price: what was allowed on the wrong one is allowed on that too. // R2 */
function rightNet({ quantity, invoiced }: CreditableLine, price: Dec, currency: string): Dec {
  const whole = lineAmount(dec(quantity), price, currency);
  if (dec(invoiced.allowance).eq(0)) return whole;
  const before = dec(invoiced.net).plus(invoiced.allowance);
  return roundHalfAway(whole.times(invoiced.net).div(before), currencyPlaces(currency));
}

function baseOf(line: CreditableLine) {
  const { invoiceLineId, orderLineId, agreementLineId, agreementId, item, locationId, taxCode, taxCodeId, taxRate } =
    line;
  return {
    invoiceLineId,
    orderLineId,
    agreementLineId,
    agreementId,
    itemId: item.id,
    locationId,
    taxCode,
    taxCodeId,
    taxRate,
  };
}

function creditLine(line: CreditableLine, kind: CreditKind, typed: Dec, currency: string): CreditLine {
  const { shipped } = line;
  const base = { ...baseOf(line), uninvoiced: '0' };
  if (kind === 'price') {
    const net = dec(line.net).minus(rightNet(line, typed, currency));
    const agreed = line.agreedNet === null ? null : partOf(line.agreedNet, net, line.net, currency).toFixed();
    const unitPrice = roundHalfAway(net.div(line.quantity), 4).toFixed();
    return { ...base, quantity: '0', unitPrice, net: net.toFixed(), agreedNet: agreed, ...NO_GOODS };
  }
  const part = (left: string, of: string) => partOf(left, typed, of, currency).toFixed();
  const agreedPart = (left: string | null, of: string) => (left === null ? null : part(left, of));
  return {
    ...base,
    quantity: typed.toFixed(),
    unitPrice: roundHalfAway(dec(line.net).div(line.quantity), 4).toFixed(),
    net: part(line.net, line.quantity),
    agreedNet: agreedPart(line.agreedNet, line.quantity),
    value: part(shipped.value, shipped.quantity),
    agreedValue: agreedPart(shipped.agreedValue, shipped.quantity),
    cost: part(shipped.cost, shipped.quantity),
  };
}

const NO_GOODS = { value: '0', agreedValue: null, cost: '0' };

/** An invoice of the same customer that a credit may be set off against. */
export interface OwedInvoice {
  openItemId: number;
  number: string;
  owed: OwedInBoth;
}

export type SetOffOfInvoice = Pick<OwedInvoice, 'openItemId' | 'number'> & SetOff;

/** Sets a credit off against what is owed, in the order given, until it is used up. // P8 */
export function setOffs(
  credit: { amount: string; own: string },
  invoices: readonly OwedInvoice[],
  own: string,
): SetOffOfInvoice[] {
  let used: OwedInBoth = { amount: credit.amount, settled: '0', ownAmount: credit.own, ownSettled: '0' };
  return invoices.flatMap(({ openItemId, number, owed }) => {
    const amount = least(dec(used.amount).minus(used.settled), dec(owed.amount).minus(owed.settled));
    if (amount.lte(ZERO)) return [];
    const ownCredit = carriedOf(used, amount, own);
    used = {
      ...used,
      settled: dec(used.settled).plus(amount).toFixed(),
      ownSettled: dec(used.ownSettled).plus(ownCredit).toFixed(),
    };
    const ownInvoice = carriedOf(owed, amount, own);
    return [
      {
        openItemId,
        number,
        amount: amount.toFixed(),
        ownInvoice: ownInvoice.toFixed(),
        ownCredit: ownCredit.toFixed(),
      },
    ];
  });
}

export interface RebateSettlementGround {
  agreement: {
    id: number;
    number: string;
    customerId: number;
    currency: string;
    accrued: string;
    settled: string;
    /** What is accrued and not settled, as it is carried in the company's currency. // P8 */
    carried: string;
  };
  exchange: ExchangeOf;
  /** What the customer owes in that currency, oldest first. */
  owed: readonly OwedInvoice[];
}

export interface RebateSettlementEffects {
  agreementId: number;
  customerId: number;
  currency: string;
  amount: string;
  rate: string;
  /** What it is worth today in the company's currency, and what it was accrued at. // P8 */
  own: { worth: string; carried: string };
  setOff: SetOffOfInvoice[];
}

/** Settles what is accrued and not settled into a credit note, set off against what is owed. // A10 */
export function decideSettlement({
  agreement,
  owed,
  exchange,
}: RebateSettlementGround): Decision<RebateSettlementEffects> {
  const { amount: balance, own: carried } = rebateBalance(agreement);
  const refusals = balance.gt(0) ? [] : [refuse('no-rebate-owed', '', { agreement: agreement.number })];
  refusals.push(...rateRefusals(exchange, ''));
  return decided(refusals, () => {
    const worth = ownOf(balance, known(exchange)).toFixed();
    return {
      agreementId: agreement.id,
      customerId: agreement.customerId,
      currency: agreement.currency,
      amount: balance.toFixed(),
      rate: exchange.rate!,
      own: { worth, carried: carried.toFixed() },
      setOff: setOffs({ amount: balance.toFixed(), own: worth }, owed, exchange.own),
    };
  });
}

export interface RebateClaimEffects {
  agreementId: number;
  customerId: number;
  currency: string;
  amount: string;
  rate: string;
  /** What it is worth today in the company's currency, and what it was settled beyond at. // P8 */
  own: { worth: string; carried: string };
  invoiceDate: Day;
  dueDate: Day;
}

/** Claims back what was settled of a rebate beyond what is accrued now: goods that came back took it below its tier. // A10 */
export function decideRebateClaim(
  {
    agreement,
    termsDays,
    exchange,
  }: { agreement: RebateSettlementGround['agreement']; termsDays: number; exchange: ExchangeOf },
  day: Day,
): Decision<RebateClaimEffects> {
  const balance = rebateBalance(agreement);
  const beyond = balance.amount.neg();
  const refusals = beyond.gt(0) ? [] : [refuse('no-rebate-to-claim', '', { agreement: agreement.number })];
  refusals.push(...rateRefusals(exchange, ''));
  return decided(refusals, () => ({
    agreementId: agreement.id,
    customerId: agreement.customerId,
    currency: agreement.currency,
    amount: beyond.toFixed(),
    rate: exchange.rate!,
    own: { worth: ownOf(beyond, known(exchange)).toFixed(), carried: balance.own.neg().toFixed() },
    invoiceDate: day,
    dueDate: addDays(day, termsDays),
  }));
}
