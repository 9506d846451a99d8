import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import * as z from 'zod';
import { Id, isNamedOnce, namedOnce, type ActEndpoint, type Schema } from './kit';

/** Every act of the contract, whichever file tells it. */
async function allActs(): Promise<ActEndpoint[]> {
  const files = readdirSync(__dirname, { recursive: true, encoding: 'utf8' });
  const told = files.filter((name) => name.endsWith('.ts') && !/\.spec\.|index/.test(name));
  const rooms = await Promise.all(
    told.map((name) => import(join(__dirname, name)) as Promise<Record<string, unknown>>),
  );
  return rooms
    .flatMap((room) => Object.values(room))
    .filter(
      (each): each is ActEndpoint => typeof each === 'object' && each !== null && 'input' in each && 'preview' in each,
    );
}

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
  'enterPurchase.lines': 'each is a line of the purchase that is made',
  'shareCommission.shares': 'a person named twice is refused by the act',
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

describe('what an act is told', () => {
  it('names each thing once in every list of every act, or says why it need not', async () => {
    const acts = await allActs();
    expect(acts.length).toBeGreaterThan(50);
    const free = acts
      .flatMap(({ name, input }) => listsIn(input, name))
      .filter(([, list]) => !isNamedOnce(list))
      .map(([at]) => at);
    expect(free.sort()).toEqual(Object.keys(MAY_AGREE).sort());
  });

  it('is told where something is named again, and where it was named first', () => {
    const list = namedOnce(z.array(z.object({ id: Id.nullable(), quantity: z.string() })).max(5), 'id');
    const rows = [7, null, 9, null, 7, 7].map((id) => ({ id, quantity: '1' }));
    expect(list.safeParse(rows.slice(0, 4)).success).toBe(true);
    expect(list.safeParse(rows.slice(0, 5)).error!.issues).toMatchObject([
      { code: 'custom', path: [4, 'id'], params: { first: 0 } },
    ]);
    expect(list.safeParse(rows).error!.issues.map((issue) => issue.code)).toContain('too_big');
    const ids = namedOnce(z.array(Id));
    expect(ids.safeParse([3, 4]).success).toBe(true);
    expect(ids.safeParse([3, 4, 3]).error!.issues).toMatchObject([{ path: [2], params: { first: 0 } }]);
  });
});
