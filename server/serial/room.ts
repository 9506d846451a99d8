import * as serial from '@api/serial';
import { reads, type Room } from '../room';
import { correctNumber, keepByNumber, putPart } from './acts';
import { checks } from './checks';
import { listSerials, openSerial, serialsHere } from './reads';

/** What the room of serial numbers has. */
export const room: Room = {
  acts: [keepByNumber, correctNumber, putPart],
  answers: [
    reads(serial.listSerials, (sql, companyId, { query }) => listSerials(sql, companyId, query)),
    reads(serial.openSerial, (sql, companyId, { params }) => openSerial(sql, companyId, params.id)),
    reads(serial.serialsHere, (sql, companyId, { params, query, workDate }) =>
      serialsHere(sql, companyId, params.id, query, workDate),
    ),
  ],
  checks,
  findable: [
    {
      kind: 'serial',
      from: 'serial d JOIN item i ON i.company_id = d.company_id AND i.id = d.item_id',
      name: 'i.name',
    },
  ],
};
