import { decideOpenPurchases } from '@core/supply';
import { dec, sum } from '@core/kernel';
import * as contract from '@api/purchasing';
import { defineAct, takeNumbers } from '../acts';
import { locationsOf } from '../catalogue';
import { insertPurchases } from './acts';
import { boughtItems } from './store';

/** Purchases that were placed before Kampong, with what is still to come of them. // U3 L4 */
export const openPurchases = defineAct(contract.openPurchases, {
  right: 'purchases',
  says: 'enter purchase orders',
  done: 'open purchases entered',
  async load(tx, { lines }, { companyId, workDate }) {
    const said = (field: 'vendor' | 'item' | 'number') => [...new Set(lines.map((line) => line[field].trim()))];
    const vendors = await tx.rows<{ id: number; number: string; name: string; currency: string; outOfUse: boolean }>(
      `SELECT id, number, name, currency, out_of_use FROM vendor
        WHERE company_id = ? AND (number IN (?) OR name IN (?)) ORDER BY id ${tx.forUpdate}`,
      [companyId, said('vendor'), said('vendor')],
    );
    const items = await tx.rows<{ id: number; number: string }>(
      'SELECT id, number FROM item FORCE INDEX (item_number) WHERE company_id = ? AND number IN (?)',
      [companyId, said('item')],
    );
    const opened = await tx.rows<{ vendorId: number; openedAs: string; number: string }>(
      'SELECT vendor_id, opened_as, number FROM purchase_order WHERE company_id = ? AND opened_as IN (?)',
      [companyId, said('number')],
    );
    const places = await locationsOf(tx, companyId);
    const same = (a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase();
    return {
      lines: lines.map((line) => {
        const byNumber = vendors.filter(({ number }) => same(number, line.vendor));
        const named = byNumber.length > 0 ? byNumber : vendors.filter(({ name }) => same(name, line.vendor));
        const vendor = named.length === 1 ? named[0]! : null;
        const place =
          line.place.trim() === ''
            ? places[0]
            : places.find(({ code, name }) => same(code, line.place) || same(name, line.place));
        return {
          vendor,
          itemId: items.find(({ number }) => same(number, line.item))?.id ?? null,
          locationId: place?.id ?? null,
          opened:
            opened.find((each) => each.vendorId === vendor?.id && same(each.openedAs, line.number))?.number ?? null,
        };
      }),
      items: await boughtItems(
        tx,
        companyId,
        items.map(({ id }) => id),
        workDate,
      ),
      locationIds: places.map(({ id }) => id),
    };
  },
  decide: (ground, input, { workDate }) => decideOpenPurchases(ground, input, workDate),
  preview: ({ purchases, same }) => ({
    purchases: purchases.length,
    lines: purchases.reduce((all, { lines }) => all + lines, 0),
    same,
    nets: [...new Set(purchases.map(({ plan }) => plan.currency))].map((currency) => ({
      currency,
      net: sum(
        purchases
          .filter(({ plan }) => plan.currency === currency)
          .flatMap(({ plan }) => plan.lines.map(({ amount }) => dec(amount))),
      ).toFixed(),
    })),
  }),
  async write(tx, { purchases }, _ground, doer) {
    if (purchases.length === 0) return { made: [], touched: [] };
    const number = await takeNumbers(tx, doer.companyId, { PO: purchases.length });
    const made = await insertPurchases(
      tx,
      doer,
      purchases.map(({ plan }) => plan),
      () => number('PO'),
    );
    await tx.batch(
      made.map(({ id }, at) => ({
        sql: 'UPDATE purchase_order SET opened_as = ? WHERE company_id = ? AND id = ?',
        values: [purchases[at]!.number, doer.companyId, id],
      })),
    );
    return { made, touched: [] };
  },
});
