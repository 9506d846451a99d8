import { dec, isDecimalText, pointOf, sum } from '@core/kernel';
import type { Decision } from '@core/refusals';
import type { MoveEffects, StockLine } from '@core/stock';
import { tiesBeyond, type ComingTie } from './given-back';
import { decideAssembly, type Assembled } from './ship';
import { decideTakeBackWork, type TakeBackEffects, type TakenBackGround } from './take-back';
import type { WorkGround } from './work-order';

/** A line that is to go out, with how many of it. */
interface Asked {
  lineId: number;
  quantity: string;
  field: string;
}

/**
 * A decision to ship lines, with what of them is assembled in the same act: they are shipped as if what is assembled were
 * there and held for them. // P5
 */
export function assemblingFirst(
  works: readonly WorkGround[],
  lines: readonly StockLine[],
  asked: readonly Asked[],
  ship: (lines: readonly StockLine[]) => Decision<MoveEffects>,
): Decision<MoveEffects & { assembled: Assembled[] }> {
  const short = asked.flatMap(({ lineId, quantity, field }) => {
    const found = lines.find(({ line }) => line.id === lineId && line.route === 'assemble');
    const much =
      found && isDecimalText(quantity.trim(), 'quantity') ? dec(quantity.trim()).minus(found.line.reserved) : null;
    // What is more than is open is refused where it ships, and nothing is assembled for it.
    return much?.gt(0) && dec(quantity.trim()).lte(found!.line.open) ? [{ lineId, short: much.toFixed(), field }] : [];
  });
  const decision = decideAssembly(works, short);
  if (!decision.ok) {
    const others = ship(lines);
    const own = new Set(short.map(({ field }) => field));
    const rest = others.ok ? [] : others.refusals.filter(({ field }) => !own.has(field));
    return { ok: false, refusals: [...decision.refusals, ...rest] };
  }
  const assembled = decision.effects;
  const shipped = ship(linesAfter(works, assembled, lines));
  return shipped.ok
    ? { ...shipped, effects: { ...shipped.effects, assembled } }
    : { ok: false, refusals: shipped.refusals };
}

/** Lines as they are once what was assembled is there. */
function linesAfter(
  works: readonly WorkGround[],
  assembled: readonly Assembled[],
  lines: readonly StockLine[],
): StockLine[] {
  return lines.map((each) => {
    const at = pointOf(each.item.id, each.line.locationId);
    const out = assembled.filter(({ at: place }) => {
      const { order } = works[place]!;
      return pointOf(order.itemId, order.locationId) === at;
    });
    const uses = assembled.filter(({ at: place }) => works[place]!.order.locationId === each.line.locationId);
    const gone = uses.flatMap(({ effects }) => effects.components.filter(({ itemId }) => itemId === each.item.id));
    if (out.length === 0 && gone.length === 0) return each;
    const total = (amounts: readonly string[]) => sum(amounts.map(dec));
    const ties = out.flatMap(({ effects }) => effects.ties);
    const own = total(ties.filter(({ orderLineId }) => orderLineId === each.line.id).map(({ made }) => made));
    const came = total(out.map(({ effects }) => effects.good));
    const left = total(gone.map(({ quantity }) => quantity));
    return {
      ...each,
      line: { ...each.line, reserved: own.plus(each.line.reserved).toFixed() },
      item: {
        ...each.item,
        onHand: dec(each.item.onHand).plus(came).minus(left).toFixed(),
        free: dec(each.item.free)
          .plus(came)
          .minus(total(ties.map(({ made }) => made)))
          .minus(left)
          .toFixed(),
        stockValue: dec(each.item.stockValue)
          .plus(total(out.map(({ effects }) => effects.outputCost)))
          .minus(total(gone.map(({ cost }) => cost)))
          .toFixed(),
      },
    };
  });
}

/** A report that is taken back with its shipment: as it is, and what that does. */
export interface Apart<Report extends TakenBackGround> {
  ground: Report;
  effects: TakeBackEffects;
}

/** Goods that a shipment brings back, for the line they went out on. */
interface ComeBack {
  orderLineId: number;
  itemId: number;
  quantity: string;
  cost: string;
}

/**
 * A decision to take shipments back, with what was assembled for them: it is taken apart as if what went out were here
 * again and held for its line. // P1 P5
 */
export function takingApart<Effects, Report extends TakenBackGround>(
  decision: Decision<Effects>,
  reports: readonly Report[],
  back: readonly ComeBack[],
  reason: string,
): Decision<Effects & { apart: Apart<Report>[] }> {
  if (!decision.ok) return { ok: false, refusals: decision.refusals };
  const apart: Apart<Report>[] = [];
  for (const ground of reports) {
    const of = back.filter(({ itemId }) => itemId === ground.order.itemId);
    const total = (amounts: readonly string[]) => sum(amounts.map(dec));
    const came = total(of.map(({ quantity }) => quantity));
    const product = {
      onHand: came.plus(ground.product.onHand).toFixed(),
      reserved: came.plus(ground.product.reserved).toFixed(),
      value: total(of.map(({ cost }) => cost))
        .plus(ground.product.value)
        .toFixed(),
    };
    const ties = ground.report.ties.map((tie) => {
      const own = total(
        of.filter(({ orderLineId }) => orderLineId === tie.orderLineId).map(({ quantity }) => quantity),
      );
      return { ...tie, reserved: own.plus(tie.reserved).toFixed() };
    });
    const taken = decideTakeBackWork({ ...ground, product, report: { ...ground.report, ties } }, { reason });
    if (!taken.ok) return { ok: false, refusals: taken.refusals };
    apart.push({ ground, effects: taken.effects });
  }
  return { ...decision, effects: { ...decision.effects, apart } };
}

/** What is made for lines that went out from elsewhere, beyond what they still want. // L1 */
export function beyondShipped(
  { shipments, assembled }: MoveEffects & { assembled: readonly Assembled[] },
  lines: readonly StockLine[],
  coming: readonly ComingTie[],
) {
  const parts = shipments.flatMap((shipment) => shipment.parts);
  // What is assembled now for a line comes of its tie.
  const made = assembled.flatMap(({ effects }) => effects.ties);
  const wanted = new Map(
    lines.flatMap(({ line }) => {
      const gone = parts.filter(({ orderLineId }) => orderLineId === line.id);
      if (gone.length === 0) return [];
      const out = sum(gone.map(({ quantity }) => dec(quantity)));
      const held = sum(gone.map((part) => dec(part.held)));
      const came = sum(made.filter(({ orderLineId }) => orderLineId === line.id).map((tie) => dec(tie.made)));
      // Of what was held and what is made now, the rest is held still.
      const still = dec(line.reserved).plus(came).minus(held);
      return [[line.id, dec(line.open).minus(out).minus(still).plus(came).toFixed()] as const];
    }),
  );
  return tiesBeyond(coming, wanted);
}
