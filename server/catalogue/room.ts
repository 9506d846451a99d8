import * as catalogue from '@api/catalogue';
import { reads, type Room } from '../room';
import { locationsOf } from './locations';
import { optionsOf } from './options';
import { itemWork } from './item-work';
import { findItems, openItem } from './reads';
import { takeTaxRates } from './tax-rates';

/** What the catalogue room has. */
export const room: Room = {
  acts: [takeTaxRates],
  answers: [
    reads(catalogue.locations, async (sql, companyId) => ({ rows: await locationsOf(sql, companyId) })),
    reads(catalogue.findItems, (sql, companyId, { query }) => findItems(sql, companyId, query.q, query)),
    reads(catalogue.itemOptions, async (sql, companyId, { params, query }) => ({
      groups: (await optionsOf(sql, companyId, query.customerId ?? null, [params.id])).get(params.id) ?? [],
    })),
    reads(catalogue.openItem, (sql, companyId, { params, workDate }) => openItem(sql, companyId, params.id, workDate)),
    reads(catalogue.itemWork, (sql, companyId, { params, workDate }) => itemWork(sql, companyId, params.id, workDate)),
  ],
  findable: [{ kind: 'item', from: 'item d', name: 'd.name' }],
};
