import * as z from 'zod';
import { isNamedOnce, type Schema } from '@api/kit';
import { ROOMS } from './rooms';

/** Lists of inputs whose members may agree, and why nothing is paid twice by it. */
const MAY_AGREE: Readonly<Record<string, string>> = {
  'saveAgreement.reminders': 'two at one moment are refused by the act',
  'reviseAgreement.reminders': 'two at one moment are refused by the act',
  'saveAgreement.rebate.tiers': 'two from one quantity are refused by the act',
  'reviseAgreement.rebate.tiers': 'two from one quantity are refused by the act',
  'saveAgreement.lines': 'two of one item are refused by the act',
  'saveAgreement.lines.breaks': 'two from one quantity are refused by the act',
  'reviseAgreement.lines.breaks': 'two from one quantity are refused by the act',
  'savePlan.lines.calls': 'two on one day are refused by the act',
  'releaseAgreement.lines': 'each is a line of the order that is made; what is left is counted down by each',
  'openStock.lines': 'an item at a place is opened once, which the act refuses otherwise',
  'openPurchases.lines': 'each is a line of the purchase that is made',
  'openItems.lines': 'an invoice named twice is refused by the act',
  'tellTakenBefore.lines': 'a line of an agreement named twice is refused by the act',
  'enterPurchase.lines': 'each is a line of the purchase that is made',
  'saveStanding.lines': 'each is a line of the orders that are made',
  'pasteStanding.rows': 'each is a line of the standing order that is made',
  'tieWork.ties': 'each is counted down from what is left of both its ends',
  ...Object.fromEntries(
    [
      'adjustStock.numbers',
      'creditInvoice.lines.numbers',
      'openStock.lines.numbers',
      'enterCount.lines.numbers',
      'arrive.numbers',
      'moveBetween.numbers',
      'receiveGoods.lines.numbers',
      'reportWork.numbers',
      'reportWork.used.numbers',
      'sendOut.lines.numbers',
      'shipLines.lines.numbers',
      'shipLines.others.lines.numbers',
      'sellAtTill.take.numbers',
      'bringBack.lines.numbers',
      'shipStop.numbers.numbers',
    ].map((at) => [at, 'a number named twice is refused by the act, as its texts may differ']),
  ),
  'shareCommission.shares': 'a person named twice is refused by the act',
  'keepView.columns.order': 'where a column is named twice, its first place counts',
  'keepView.columns.hidden': 'hidden twice is hidden',
  'shareCommission.was': 'only compared with what is there',
};

function listsIn(schema: Schema, at: string): [string, Schema][] {
  if (schema instanceof z.ZodArray) return [[at, schema], ...listsIn(schema.element as Schema, at)];
  if (schema instanceof z.ZodObject) {
    return Object.entries(schema.shape as Record<string, Schema>).flatMap(([name, inner]) =>
      listsIn(inner, `${at}.${name}`),
    );
  }
  const { innerType, in: piped, options } = schema.def as { innerType?: Schema; in?: Schema; options?: Schema[] };
  return [innerType, piped, ...(options ?? [])].flatMap((inner) => (inner ? listsIn(inner, at) : []));
}

describe('what acts are told', () => {
  it('names each thing once in every list of every act, or it is said why it need not', () => {
    const acts = ROOMS.flatMap((room) => room.acts ?? []);
    expect(acts.length).toBeGreaterThan(50);
    const free = acts
      .flatMap(({ endpoint }) => listsIn(endpoint.input, endpoint.name))
      .filter(([, list]) => !isNamedOnce(list))
      .map(([at]) => at);
    expect(free.sort()).toEqual(Object.keys(MAY_AGREE).sort());
  });
});
