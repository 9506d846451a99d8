import { dec, least, sum, ZERO, type Day, type Dec, type DocumentRef } from '@core/kernel';

/** The steps of a thread, in the order they are drawn. */
export const STAGES = [
  'agreed',
  'ordered',
  'supply',
  'received',
  'shipped',
  'invoiced',
  'vendorInvoiced',
  'paid',
] as const;
export type Stage = (typeof STAGES)[number];

export const STAGE_NAMES: Record<Stage, string> = {
  agreed: 'Agreed',
  ordered: 'Ordered',
  supply: 'Supply',
  received: 'Received',
  shipped: 'Shipped',
  invoiced: 'Invoiced',
  vendorInvoiced: 'Vendor invoiced',
  paid: 'Paid',
};

/** A part of the line's quantity that a document carries, in the order it happened. */
export interface Part {
  document: DocumentRef;
  quantity: string;
  day: Day;
  /** Short words under the number: `12 tied, Arus Membrane`. */
  note: string;
  /** How far this bead is filled, 0 to 1; a posted document is full. */
  filled: number;
  /** What differs, in words; empty where in step. */
  differs?: string;
}

/** All documents of one order line. Parts that hang on another name it by its index there. */
export interface ThreadRows {
  quantity: string;
  /** False for goods from our stock: no supply of its own and no receipt will ever come. */
  purchased: boolean;
  /** False where all of its supply is made by us: no vendor will ever invoice it. */
  bought: boolean;
  agreed: Part | null;
  ordered: Part;
  supplies: Part[];
  moves: ThreadMove[];
  /** Each hangs on the moves of one shipment, or of one receipt. */
  invoices: { moves: readonly number[]; part: Part; paid: Part | null }[];
  vendorInvoices: { moves: readonly number[]; part: Part }[];
}

/**
 * Goods that moved, as far as they have: a receipt hangs on a supply; goods from stock have none; what was received for
 * a special order waits for its shipment. One of the two is there.
 */
export interface ThreadMove {
  supply: number | null;
  receipt: Part | null;
  shipment: Part | null;
}

/** A move with the places of its receipt and shipment in what it was paired from. */
export interface PairedMove extends ThreadMove {
  receiptAt: number | null;
  shipmentAt: number | null;
}

/**
 * The moves of a special order: what was received for it goes out in the order it came; what went out beyond it came
 * from stock, what did not go out waits. Their quantities sum to the receipts' and to the shipments'. // L3
 */
export function pairMoves(
  receipts: readonly { supply: number; part: Part }[],
  shipments: readonly Part[],
): PairedMove[] {
  const moves: PairedMove[] = [];
  const came = receipts.map((each, receiptAt) => ({ ...each, receiptAt, rest: dec(each.part.quantity) }));
  const cut = (part: Part, quantity: Dec): Part => ({ ...part, quantity: quantity.toFixed() });
  shipments.forEach((shipment, shipmentAt) => {
    let rest = dec(shipment.quantity);
    for (const each of came) {
      const piece = least(rest, each.rest);
      if (piece.lte(0)) continue;
      const { supply, receiptAt } = each;
      moves.push({
        supply,
        receipt: cut(each.part, piece),
        shipment: cut(shipment, piece),
        receiptAt,
        shipmentAt,
      });
      each.rest = each.rest.minus(piece);
      rest = rest.minus(piece);
    }
    if (rest.lte(0)) return;
    moves.push({ supply: null, receipt: null, shipment: cut(shipment, rest), receiptAt: null, shipmentAt });
  });
  for (const { supply, part, receiptAt, rest } of came) {
    if (rest.gt(0)) moves.push({ supply, receipt: cut(part, rest), shipment: null, receiptAt, shipmentAt: null });
  }
  return moves;
}

export interface Bead {
  stage: Stage;
  part: Part | null;
  quantity: string;
  /** First and last strand it lies on, both included. */
  from: number;
  to: number;
}

export interface Thread {
  /** Quantity of each strand; they sum to the line's. */
  strands: string[];
  beads: Bead[];
}

interface Strand {
  quantity: Dec;
  parts: Partial<Record<Stage, { key: string; part: Part }>>;
  move: number | null;
}

/**
 * The thread of one order line: its quantity split into strands wherever a step took only a part,
 * and on each strand the beads that have happened and those still to come.
 * Neighbouring strands that share a document share its bead. O(parts²) for a handful of parts.
 */
export function buildThread(rows: ThreadRows): Thread {
  let strands: Strand[] = [{ quantity: dec(rows.quantity), parts: {}, move: null }];
  strands = splitSupply(strands, rows);
  strands = splitMoves(strands, rows);
  strands = splitInvoices(strands, rows);
  if (strands.length === 0) strands = [{ quantity: ZERO, parts: {}, move: null }];
  for (const strand of strands) {
    if (rows.agreed) strand.parts.agreed = { key: 'agreed', part: rows.agreed };
    strand.parts.ordered = { key: 'ordered', part: rows.ordered };
  }
  const quantities = strands.map((strand) => strand.quantity.toFixed());
  const beads = STAGES.filter((stage) => applies(stage, rows)).flatMap((stage) => beadsOf(stage, strands, quantities));
  return { strands: quantities, beads };
}

function applies(stage: Stage, rows: ThreadRows): boolean {
  if (stage === 'agreed') return rows.agreed !== null;
  if (stage === 'vendorInvoiced') return rows.purchased && rows.bought;
  return rows.purchased || !(stage === 'supply' || stage === 'received');
}

/** Cuts the first strand that `fits` has into a piece of at most `quantity`, until the quantity is used up. */
function take(
  strands: Strand[],
  quantity: Dec,
  fits: (strand: Strand) => boolean,
  mark: (strand: Strand) => void,
): Strand[] {
  let rest = quantity;
  const out: Strand[] = [];
  for (const strand of strands) {
    if (rest.lte(0) || strand.quantity.lte(0) || !fits(strand)) {
      out.push(strand);
      continue;
    }
    const left = strand.quantity.minus(rest);
    const taken = { ...strand, quantity: left.gt(0) ? rest : strand.quantity, parts: { ...strand.parts } };
    mark(taken);
    out.push(taken);
    if (left.gt(0)) out.push({ ...strand, quantity: left, parts: { ...strand.parts } });
    rest = left.gt(0) ? ZERO : left.neg();
  }
  return out;
}

function splitSupply(strands: Strand[], rows: ThreadRows): Strand[] {
  rows.supplies.forEach((part, index) => {
    strands = take(
      strands,
      dec(part.quantity),
      (strand) => !strand.parts.supply,
      (strand) => (strand.parts.supply = { key: `supply${index}`, part }),
    );
  });
  return strands;
}

/** Moves of a supply go on its strands; goods from stock on those without one, and only then on any that waits. */
function splitMoves(strands: Strand[], rows: ThreadRows): Strand[] {
  const byWay = rows.moves.map((move, index) => ({ move, index }));
  const ordered = [
    ...byWay.filter(({ move }) => move.supply !== null),
    ...byWay.filter(({ move }) => move.supply === null),
  ];
  for (const { move, index } of ordered) {
    const { supply, receipt, shipment } = move;
    const waits = (strand: Strand) => strand.move === null;
    const own = (strand: Strand) => strand.parts.supply?.key === (supply === null ? undefined : `supply${supply}`);
    const mark = (strand: Strand) => {
      strand.move = index;
      if (receipt) strand.parts.received = { key: `rc${receipt.document.id}`, part: receipt };
      if (shipment) strand.parts.shipped = { key: `sh${shipment.document.id}`, part: shipment };
    };
    const quantity = dec((shipment ?? receipt)!.quantity);
    const fitting = least(
      quantity,
      sum(strands.filter((each) => waits(each) && own(each)).map((each) => each.quantity)),
    );
    strands = take(strands, fitting, (strand) => waits(strand) && own(strand), mark);
    if (supply === null) strands = take(strands, quantity.minus(fitting), waits, mark);
  }
  return strands;
}

function splitInvoices(strands: Strand[], rows: ThreadRows): Strand[] {
  rows.invoices.forEach(({ moves, part, paid }) => {
    strands = take(
      strands,
      dec(part.quantity),
      (strand) => strand.move !== null && moves.includes(strand.move) && !strand.parts.invoiced,
      (strand) => {
        strand.parts.invoiced = { key: `ci${part.document.id}`, part };
        if (paid) strand.parts.paid = { key: `paid${part.document.id}`, part: paid };
      },
    );
  });
  rows.vendorInvoices.forEach(({ moves, part }) => {
    strands = take(
      strands,
      dec(part.quantity),
      (strand) => strand.move !== null && moves.includes(strand.move) && !strand.parts.vendorInvoiced,
      (strand) => (strand.parts.vendorInvoiced = { key: `vi${part.document.id}`, part }),
    );
  });
  return strands;
}

/** The beads of one stage; `quantities` are the strands', written. */
function beadsOf(stage: Stage, strands: readonly Strand[], quantities: readonly string[]): Bead[] {
  const beads: (Bead & { key: string | null })[] = [];
  strands.forEach((strand, index) => {
    const found = strand.parts[stage] ?? null;
    const last = beads.at(-1);
    if (last && found && last.key === found.key) {
      last.to = index;
      last.quantity = dec(last.quantity).plus(strand.quantity).toFixed();
      return;
    }
    beads.push({
      stage,
      key: found?.key ?? null,
      part: found?.part ?? null,
      quantity: quantities[index]!,
      from: index,
      to: index,
    });
  });
  return beads.map(({ key: _key, ...bead }) => bead);
}
