import { decideTake, type TakeEffects } from '@core/sisters';
import { dec } from '@core/kernel';
import * as contract from '@api/sisters';
import { defineAct, recordIn, Refused, type Doer, type Touched } from '../acts';
import type { Tx } from '../db';
import { changedBy, endedBy } from './follow';
import { loadTake, type Taken } from './ground';
import { madeOf } from './made';
import { SOURCE_KIND, TAKEN_KIND, type OfferHead } from './sources';

/** Takes what a sister offers. // X2 X3 */
export const takeOffer = defineAct(contract.takeOffer, {
  right: 'orders',
  rightFor: ({ kind }) => contract.OFFER_RIGHT[kind],
  says: 'take what sister companies offer',
  done: 'taken from a sister company',
  load: (sql, { id, kind }, { companyId }) => loadTake(sql, companyId, id, kind),
  decide: (ground, input, { workDate }) => decideTake(ground, input, workDate),
  also: (effects, { invoices }, input) =>
    input.invoices && effects.does === 'make' && invoices.length > 0
      ? [{ right: 'vendor-invoices' as const, says: "enter vendors' invoices" }]
      : [],
  preview: ({ does, lines, otherwise }) => ({
    does,
    lines: lines.map(({ source, quantity, day, price }) => ({ item: source.ours!.number, quantity, day, price })),
    otherwise,
    fields: lines.flatMap(({ source, quantity, day }) => [
      ...(dec(source.quantity).times(source.factor).eq(quantity)
        ? []
        : [
            {
              what: `quantity of line ${source.lineNo}`,
              was: dec(source.quantity).times(source.factor).toFixed(),
              is: quantity,
            },
          ]),
      ...(source.day === null || source.day === day
        ? []
        : [{ what: `day of line ${source.lineNo}`, was: source.day, is: day }]),
    ]),
  }),
  async write(tx, effects, ground, doer, input) {
    const done = await take(tx, ground, effects, doer, input);
    const more = input.invoices && effects.does === 'make' ? await takeInvoices(tx, ground, doer) : [];
    return { made: [...done.made, ...more], touched: done.touched };
  },
});

async function take(
  tx: Tx,
  ground: Taken,
  effects: TakeEffects,
  doer: Doer,
  input: { draft: boolean },
): Promise<{ made: Touched[]; touched: Touched[] }> {
  const { head } = ground;
  const done =
    effects.does === 'make'
      ? await madeOf(tx, ground, effects.lines, doer, input)
      : effects.does === 'change'
        ? await changedBy(tx, ground, effects.lines, doer)
        : await endedBy(tx, ground, doer);
  const became = done.made.find(({ kind }) => kind === TAKEN_KIND[head.kind])?.id ?? head.takenId;
  await tx.run(
    `UPDATE offer SET state = IF(state IN ('open', 'aside'), 'taken', state), taken_revision = revision, taken_gone = gone,
            taken_id = ? WHERE id = ?`,
    [became, head.id],
  );
  if (became !== null) await foldedBack(tx, head, became, effects, doer);
  // Elsewhere she hears of it by what we send her.
  if (head.elsewhere) return done;
  await recordIn(
    tx,
    takeOffer.endpoint.name,
    { number: head.number },
    [{ kind: SOURCE_KIND[head.kind], id: head.sourceId, number: head.number }],
    { ...doer, companyId: head.fromId },
  );
  return done;
}

/**
 * What was made here is offered to the sister in turn, and known to her: it is hers. Where it was taken otherwise than
 * she sent it, she has to hear of that. // X3
 */
async function foldedBack(
  tx: Tx,
  { fromId, kind, sourceId, elsewhere }: OfferHead,
  became: number,
  { does, otherwise }: TakeEffects,
  { companyId }: Doer,
): Promise<void> {
  if (kind !== 'order' && kind !== 'purchase') return;
  const [table, back] = kind === 'order' ? ['sales_order', 'purchase'] : ['purchase_order', 'order'];
  if (does === 'end') {
    await tx.run(
      'UPDATE offer SET taken_gone = gone, taken_revision = revision WHERE from_id = ? AND kind = ? AND source_id = ?',
      [companyId, back, became],
    );
    return;
  }
  await tx.run(
    `INSERT INTO offer (company_id, from_id, kind, source_id, number, revision, state, taken_id, taken_revision)
       SELECT ?, d.company_id, ?, d.id, d.number, d.revision, 'folded', ?, d.revision + ? FROM ${table} d
        WHERE d.company_id = ? AND d.id = ?
       ON DUPLICATE KEY UPDATE state = 'folded', taken_id = VALUES(taken_id), revision = VALUES(revision),
         taken_revision = VALUES(taken_revision), taken_gone = gone`,
    [fromId, back, elsewhere ? null : sourceId, otherwise ? 1 : 0, companyId, became],
  );
}

/** The invoices that came with a shipment, entered with its receipt. // X3 */
async function takeInvoices(tx: Tx, { invoices }: Taken, doer: Doer): Promise<Touched[]> {
  const entered: Touched[] = [];
  for (const { id, revision } of invoices) {
    const ground = await loadTake(tx, doer.companyId, id, 'invoice');
    const decision = decideTake(ground, { revision, lines: [] }, doer.workDate);
    if (!decision.ok) throw new Refused(decision.refusals);
    entered.push(...(await take(tx, ground, decision.effects, doer, { draft: false })).made);
  }
  return entered;
}
