import { dec, isDecimalText, MAIN_LOCATION } from '@core/kernel';
import { day, money } from '../kit/formats';
import type { PricedLine } from './price-panel';
import type { OrderLine } from './service';
import { baseQuantity, type LinePrice, type TypedLine } from './typed';

/** What the price panel says of a line as it is typed; nothing of a blank one. // R4 */
export function typedPrice(row: TypedLine, found: LinePrice | undefined): PricedLine | null {
  if (row.itemId === null) return null;
  return {
    title: row.number,
    quantity: isDecimalText(row.quantity, 'quantity') ? row.quantity : '0',
    unit: row.unit,
    steps: found?.steps ?? [],
    listPrice: found?.listPrice ?? row.listPrice,
    agreed: found?.steps[0]?.kind === 'agreement',
    reason: row.reason,
    shipped: null,
  };
}

/** The same of a line as it was kept, with what it was before it was priced again at shipping. */
export function keptPrice(line: OrderLine, currency: string, workDate: string): PricedLine {
  return {
    title: `${line.item.number}, line ${line.lineNo}`,
    quantity: dec(line.quantity).minus(line.cancelled).div(line.sold.factor).toFixed(),
    unit: line.sold.unit,
    steps: line.buildUp,
    listPrice: line.listPrice,
    agreed: line.agreementLineId !== null,
    reason: line.sold.reason,
    shipped:
      line.pricedOn === null
        ? null
        : { day: day(line.pricedOn, workDate), before: money(line.orderedAmount ?? line.amount, currency) },
  };
}

/** What a line asks for of its item, in the item's own unit. */
export interface Demand {
  itemId: number;
  lineId: number | null;
  locationId: number;
  quantity: string;
  by: string | null;
}

export function typedDemand(row: TypedLine): Demand | null {
  if (row.itemId === null) return null;
  const { itemId, id: lineId, locationId, shipDate: by } = row;
  return { itemId, lineId, locationId, quantity: baseQuantity(row), by };
}

/** What is still open of a line that is kept. */
export function keptDemand(line: OrderLine): Demand {
  const quantity = dec(line.quantity).minus(line.cancelled).minus(line.shipped).toFixed();
  const locationId = line.location?.id ?? MAIN_LOCATION;
  return { itemId: line.item.id, lineId: line.id, locationId, quantity, by: line.shipDate };
}
