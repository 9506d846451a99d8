import type { MovedWith, SerialEffects, SerialRef } from '@core/serial';
import type { Doer } from '../acts';
import { into, newId, Piece, type Insertion, type Statement } from '../db';
import { serialEntryTable, serialPartTable, serialTable } from './tables';

const pieceOf = (ref: SerialRef): Piece => ('id' in ref ? new Piece('?', [ref.id]) : newId(serialTable, ref.fresh));

/**
 * What writes the pieces that move, in an act's last trip: where each is afterwards, then those that are new, then the
 * entry of each move, with the id of the document it moves with. // P6
 */
export function numbersToWrite(
  { companyId, workDate }: Doer,
  { moves, after, next }: SerialEffects,
  documentOf: (moved: MovedWith) => Piece | number,
): { statements: Statement[]; insertions: Insertion[] } {
  const known = after.flatMap((each) => ('id' in each.serial ? [{ ...each, id: each.serial.id }] : []));
  const fresh = after.filter(({ serial }) => 'fresh' in serial);
  const bornWith = (ref: SerialRef) => {
    const born = moves.find(({ serial }) => 'fresh' in serial && 'fresh' in ref && serial.fresh === ref.fresh)!;
    return { bornKind: born.with.kind, bornId: documentOf(born.with) };
  };
  return {
    statements: [
      ...next.map((each) => ({
        sql: 'UPDATE serial_series SET next_count = ? WHERE company_id = ? AND item_id = ?',
        values: [each.next, companyId, each.itemId],
      })),
      ...known.map(({ id, place, locationId, lineId, workId }) => ({
        sql: `UPDATE serial SET place = ?, location_id = ?, order_line_id = ?, planned_order_id = ?
               WHERE company_id = ? AND id = ?`,
        values: [place, locationId, lineId, workId, companyId, id],
      })),
      // Whatever they were part of is told anew.
      ...(known.length === 0
        ? []
        : [
            {
              sql: `DELETE FROM serial_part WHERE company_id = ? AND part_id IN (${known.map(() => '?').join(',')})`,
              values: [companyId, ...known.map(({ id }) => id)],
            },
          ]),
    ],
    insertions: [
      into(
        serialTable,
        fresh.map(({ serial, itemId, number, place, locationId, lineId, workId }) => ({
          companyId,
          itemId,
          number,
          place,
          locationId,
          orderLineId: lineId,
          plannedOrderId: workId,
          ...bornWith(serial),
          bornOn: workDate,
        })),
        { ids: true },
      ),
      into(
        serialEntryTable,
        moves.map(({ serial, with: by, locationId, quantity, lineId }) => ({
          companyId,
          serialId: pieceOf(serial),
          documentKind: by.kind,
          documentId: documentOf(by),
          locationId,
          quantity,
          orderLineId: lineId,
          postedOn: workDate,
        })),
      ),
      into(
        serialPartTable,
        after.flatMap(({ serial, within }) =>
          within === null ? [] : [{ companyId, partId: pieceOf(serial), productId: pieceOf(within) }],
        ),
      ),
    ],
  };
}
