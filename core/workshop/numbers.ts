import { sameText } from '@core/kernel';
import type { SerialGround, SerialNeed } from '@core/serial';
import type { Apart } from './with-shipment';
import type { Assembled } from './ship';
import type { ReportEffects } from './report';
import type { TakenBackGround } from './take-back';
import type { WorkGround } from './work-order';

/** The numbers that were typed with a report: of what comes out, and of what was used, by component. */
export interface ReportNumbers {
  made: readonly string[];
  used: readonly { componentId: number; numbers: readonly string[]; field: string }[];
  /** Where those that come out are refused. */
  field: string;
}

const NONE: ReportNumbers = { made: [], used: [], field: 'good' };

/**
 * The pieces a report uses and makes: what comes out is for the lines it is held for, as they are served, and takes its
 * share of the parts. // W3 P6
 */
export function reportNeeds(
  { order, components }: WorkGround,
  effects: ReportEffects,
  at: number,
  typed: ReportNumbers = NONE,
): SerialNeed[] {
  const need = { locationId: order.locationId, with: { kind: 'WR' as const, at } };
  return [
    ...effects.components.map(({ componentId, itemId, quantity }) => {
      const said = typed.used.find((each) => each.componentId === componentId);
      return {
        ...need,
        way: 'out' as const,
        itemId,
        quantity,
        field: said?.field ?? typed.field,
        typed: said?.numbers ?? [],
        to: 'used' as const,
        lineId: null,
        workId: order.id,
      };
    }),
    {
      ...need,
      way: 'in' as const,
      itemId: order.itemId,
      quantity: effects.good,
      field: typed.field,
      typed: typed.made,
      for: effects.ties.map(({ orderLineId, made }) => ({ lineId: orderLineId, quantity: made })),
      made: {
        workId: order.id,
        quantity: order.quantity,
        before: order.finished,
        parts: components.map(({ itemId, quantity }) => ({ itemId, quantity })),
      },
    },
  ];
}

/** The pieces that are assembled while they are shipped: those that were typed for their line and are not there yet. // P5 P6 */
export function assemblyNeeds(
  works: readonly WorkGround[],
  assembled: readonly Assembled[],
  typed: readonly { lineId: number; numbers: readonly string[]; field: string }[],
  { serials }: SerialGround,
): SerialNeed[] {
  return assembled.flatMap(({ at, effects }, report) => {
    const work = works[at]!;
    const known = serials.filter(({ itemId }) => itemId === work.order.itemId).map(({ number }) => sameText(number));
    const own = typed.filter(({ lineId }) => effects.ties.some(({ orderLineId }) => orderLineId === lineId));
    const made = own.flatMap(({ numbers }) => numbers).filter((number) => !known.includes(sameText(number.trim())));
    return reportNeeds(work, effects, report, { made, used: [], field: own[0]?.field ?? 'lines.0.quantity' });
  });
}

/** The pieces a report moved, moved back by the one that takes it back. // P1 W3 P6 */
export const takeBackNeeds = (reports: readonly Pick<TakenBackGround, 'report'>[]): SerialNeed[] =>
  reports.map(({ report: { id, number } }, at) => ({
    way: 'back',
    of: { kind: 'WR', id },
    document: number,
    with: { kind: 'WR', at },
    from: 'used',
    heldAgain: [],
  }));

/** The same of reports that are taken apart with their shipment. */
export const apartNeeds = (apart: readonly Apart<TakenBackGround>[]): SerialNeed[] =>
  takeBackNeeds(apart.map(({ ground }) => ground));
