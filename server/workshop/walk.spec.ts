import { chanceOf, type Chance } from '@core/kernel';
import type { listSerials } from '@api/serial';
import type { openWork } from '@api/workshop';
import type * as z from 'zod';
import { World, type Visitor } from '../testing/world';

type Work = z.output<typeof openWork.out>;

/** What a person with a slate would know of an order. */
interface Slate {
  id: number;
  quantity: number;
  good: number;
  lost: number;
  over: boolean;
  /** What is for which line, and what of it was made. */
  ties: Map<number, { quantity: number; made: number }>;
  /** Reports that stand, the last one last: what they made, lost, and made for whom. */
  reports: { id: number; good: number; lost: number; made: Map<number, number>; finished: boolean }[];
}

/** A piece with its number: where it is, the line it was made for, and the report it came with. */
interface SlatePiece {
  no: number;
  where: 'ours' | 'customer' | 'out';
  line: number | null;
  report: number;
}

interface SlateLine {
  id: number;
  orderId: number;
  quantity: number;
  held: number;
  shipped: number;
  shipDate: string;
}

/**
 * Any sequence of tying, untying, reporting, losing, shipping and taking back: what is answered is what a slate with
 * strokes on it says, and every count agrees with its documents.
 */
describe.each([41, 43, 47])('a walk through the workshop (seed %d)', (seed) => {
  let world: World;
  let salmah: Visitor;
  let chance: Chance;
  const works: Slate[] = [];
  const lines: SlateLine[] = [];
  const pieces: SlatePiece[] = [];
  let free = 0;
  let shared = 0;

  beforeAll(async () => {
    world = await (await World.make()).withWorks();
    const { database } = world.serving;
    salmah = await world.visitor();
    chance = chanceOf(seed);
    // Enough of what goes into it; of the skids themselves none.
    for (const item of ['SK-FRAME', 'SK-PANEL', 'PM-15', 'TUBE-12']) {
      const [stock] = await database.rows<{ onHand: string }>('SELECT on_hand FROM stock WHERE item_id = ?', [
        world.item(item),
      ]);
      const adjusted = { itemId: world.item(item), locationId: 0, was: stock?.onHand ?? '0', now: '2000' };
      await salmah.does('adjustStock', { ...adjusted, unitCost: String(chance.whole(3, 90)), reason: 'opened' });
    }
  });
  afterAll(() => world.end());

  const tried = async (name: string, input: unknown) => {
    const answer = await salmah.raw(name, input);
    if (answer.status !== 200 && answer.status !== 422) throw new Error(`${name}: ${JSON.stringify(answer.body)}`);
    const made = answer.status === 200 ? (answer.body as { made: { kind: string; id: number }[] }).made : null;
    return made;
  };
  const left = (work: Slate) => work.quantity - work.good - work.lost;
  const coming = (work: Slate) => [...work.ties.values()].reduce((sum, tie) => sum + tie.quantity - tie.made, 0);
  const wanted = (line: SlateLine) =>
    line.quantity -
    line.shipped -
    line.held -
    works.reduce((sum, { ties, over }) => {
      const tie = over ? undefined : ties.get(line.id);
      return sum + (tie ? tie.quantity - tie.made : 0);
    }, 0);

  const make = async () => {
    const quantity = chance.whole(1, 6);
    const made = await tried('newWork', { itemId: world.item('SK-D2'), quantity: String(quantity), due: null });
    works.push({ id: made![0]!.id, quantity, good: 0, lost: 0, over: false, ties: new Map(), reports: [] });
  };
  const order = async () => {
    const { id, shipTos } = world.masters.customers.get('Kasturi Bottling')!;
    const quantity = chance.whole(1, 5);
    const shipDate = `2027-04-${chance.whole(10, 28)}`;
    const line = { id: null, itemId: world.item('SK-D2'), quantity: String(quantity), shipDate, route: 'stock' };
    const head = { id: null, version: null, customerId: id, shipToId: shipTos[0], customerReference: 'KB' };
    const [made] = (await tried('saveOrder', { ...head, lines: [line] }))!;
    await tried('confirmOrder', { id: made!.id, version: 1 });
    const sheet = await salmah.get<{ lines: { id: number }[] }>(`/api/orders/${made!.id}`);
    lines.push({ id: sheet.lines[0]!.id, orderId: made!.id, quantity, held: 0, shipped: 0, shipDate });
  };
  const tie = async () => {
    const work = chance.pick(works);
    const line = chance.pick(lines);
    const quantity = chance.whole(1, 3);
    const made = await tried('tieWork', {
      ties: [{ plannedId: work.id, orderLineId: line.id, quantity: String(quantity) }],
    });
    const fits = !work.over && quantity <= left(work) - coming(work) && quantity <= wanted(line);
    expect([work.id, line.id, quantity, made !== null]).toEqual([work.id, line.id, quantity, fits]);
    if (!fits) return;
    const before = work.ties.get(line.id) ?? { quantity: 0, made: 0 };
    work.ties.set(line.id, { ...before, quantity: before.quantity + quantity });
    if (work.ties.size > 1) shared += 1;
  };
  const untie = async () => {
    const work = chance.pick(works);
    const line = chance.pick(lines);
    const before = work.ties.get(line.id);
    const made = await tried('untieWork', { plannedId: work.id, orderLineId: line.id });
    const fits = !work.over && before !== undefined && before.quantity > before.made;
    expect(made !== null).toBe(fits);
    if (!fits) return;
    if (before.made === 0) work.ties.delete(line.id);
    else work.ties.set(line.id, { ...before, quantity: before.made });
  };
  const report = async () => {
    const work = chance.pick(works);
    const [good, lost] = [chance.whole(0, 3), chance.whole(0, 1)];
    const finish = chance.whole(0, 9) === 0;
    const made = await tried('reportWork', {
      workId: work.id,
      operationId: null,
      good: String(good),
      scrapped: String(lost),
      used: [],
      worked: [],
      finish,
    });
    const begun = work.reports.length > 0;
    const some = good + lost > 0 || (finish && begun);
    const fits = !work.over && good + lost <= left(work) && some;
    expect([work, good, lost, finish, made !== null]).toEqual([work, good, lost, finish, fits]);
    if (!fits) return;
    let rest = good;
    const held = new Map<number, number>();
    const first = [...work.ties].sort(
      ([a], [b]) => shipOf(a).localeCompare(shipOf(b)) || tieNo(work, a) - tieNo(work, b),
    );
    for (const [lineId, each] of first) {
      const line = lines.find(({ id }) => id === lineId)!;
      const much = Math.min(rest, each.quantity - each.made, line.quantity - line.shipped - line.held);
      if (much <= 0) continue;
      rest -= much;
      each.made += much;
      line.held += much;
      held.set(lineId, much);
    }
    free += rest;
    work.good += good;
    work.lost += lost;
    work.over = finish || left(work) === 0;
    work.reports.push({ id: made![0]!.id, good, lost, made: held, finished: work.over });
    const theirs = [...held].flatMap(([lineId, much]) => Array<number | null>(much).fill(lineId));
    for (let at = 0; at < good; at += 1) {
      pieces.push({ no: pieces.length + 1, where: 'ours', line: theirs[at] ?? null, report: made![0]!.id });
    }
    if (!work.over) return;
    for (const [lineId, each] of work.ties) {
      if (each.made === 0) work.ties.delete(lineId);
      else each.quantity = each.made;
    }
  };
  const shipOf = (lineId: number) => lines.find(({ id }) => id === lineId)!.shipDate;
  const tieNo = (work: Slate, lineId: number) => [...work.ties.keys()].indexOf(lineId);
  const takeBack = async () => {
    const work = chance.pick(works);
    const last = work.reports.at(-1);
    if (!last) return;
    const before = new Map([...work.ties].map(([lineId, each]) => [lineId, { ...each }]));
    const made = await tried('takeBackWork', { reportId: last.id, reason: 'not so' });
    const held = [...last.made].every(([lineId, much]) => lines.find(({ id }) => id === lineId)!.held >= much);
    const rest = last.good - [...last.made.values()].reduce((sum, each) => sum + each, 0);
    // Its very pieces must be here.
    const own = pieces.filter(({ report }) => report === last.id);
    const here = own.every(({ where }) => where === 'ours');
    expect([work.id, last, made !== null]).toEqual([work.id, last, held && rest <= free && here]);
    if (made === null) return;
    for (const piece of own) Object.assign(piece, { where: 'out', line: null });
    work.reports.pop();
    work.good -= last.good;
    work.lost -= last.lost;
    work.over = false;
    free -= rest;
    for (const [lineId, much] of last.made) {
      const line = lines.find(({ id }) => id === lineId)!;
      line.held -= much;
      work.ties.set(lineId, { quantity: before.get(lineId)!.quantity, made: before.get(lineId)!.made - much });
    }
    // What was let go of at the end is for its lines again, as far as they still want it: as the order says.
    const sheet = await salmah.get<Work>(`/api/workshop/${work.id}`);
    for (const { orderLineId, quantity, made: come } of sheet.for) {
      const tied = work.ties.get(orderLineId);
      const again = Number(quantity) - (tied?.quantity ?? 0);
      expect(again === 0 || last.finished).toBe(true);
      work.ties.set(orderLineId, { quantity: Number(quantity), made: Number(come) });
      expect(wanted(lines.find(({ id }) => id === orderLineId)!)).toBeGreaterThanOrEqual(0);
    }
  };
  /** Pieces a line may take: its own, then the oldest; none that another line holds. */
  const takenFor = (line: SlateLine) => {
    const held = lines
      .filter(({ id }) => id !== line.id)
      .flatMap(({ id, held: much }) =>
        here()
          .filter((piece) => piece.line === id)
          .slice(0, much),
      );
    const rest = here().filter((piece) => !held.includes(piece));
    return [...rest.filter((piece) => piece.line === line.id), ...rest.filter((piece) => piece.line !== line.id)];
  };
  const here = () => pieces.filter(({ where }) => where === 'ours');
  const ship = async () => {
    const line = chance.pick(lines);
    const quantity = chance.whole(1, 3);
    const made = await tried('shipLines', {
      orderId: line.orderId,
      lines: [{ lineId: line.id, quantity: String(quantity) }],
    });
    const fits = quantity <= line.quantity - line.shipped && quantity <= line.held + free;
    expect([line, quantity, made !== null]).toEqual([line, quantity, fits]);
    if (!fits) return;
    for (const piece of takenFor(line).slice(0, quantity)) Object.assign(piece, { where: 'customer', line: line.id });
    const fromHeld = Math.min(quantity, line.held);
    line.held -= fromHeld;
    free -= quantity - fromHeld;
    line.shipped += quantity;
    // What is made for it beyond what it still wants is for nobody, the last tie first.
    for (const work of [...works].reverse()) {
      const each = work.ties.get(line.id);
      const by = Math.min(-wanted(line), work.over || !each ? 0 : each.quantity - each.made);
      if (by <= 0) continue;
      each!.quantity -= by;
      if (each!.quantity === 0) work.ties.delete(line.id);
    }
    expect(wanted(line)).toBeGreaterThanOrEqual(0);
  };

  it('is what a slate says, and every count agrees', async () => {
    for (let at = 0; at < 3; at += 1) {
      await make();
      await order();
    }
    const steps = [make, order, tie, tie, tie, untie, report, report, report, takeBack, ship];
    for (let at = 0; at < 120; at += 1) await chance.pick(steps)();
    for (const work of works) {
      const sheet = await salmah.get<Work>(`/api/workshop/${work.id}`);
      const told = sheet.for.map(({ orderLineId, quantity, made }) => [orderLineId, Number(quantity), Number(made)]);
      const slate = [...work.ties].map(([lineId, { quantity, made }]) => [lineId, quantity, made]);
      expect([sheet.finished, sheet.scrapped, told.sort()]).toEqual([
        String(work.good),
        String(work.lost),
        slate.sort(),
      ]);
      // Of each component as many were used as pieces passed.
      const pieces = work.good + work.lost;
      expect(sheet.components.map(({ used }) => Number(used))).toEqual(
        [1, 2, 1, 6.3].map((per) => round(per * pieces)),
      );
      if (work.over) expect(sheet.inWork).toBe('0');
    }
    const { rows } = await salmah.get<z.output<typeof listSerials.out>>(
      `/api/serials?item=${world.item('SK-D2')}&rows=200`,
    );
    expect(rows.map(({ number, place, line }) => [number, place, line?.id ?? null])).toEqual(
      pieces.map(({ no, where, line }) => [`D2-27-${String(no).padStart(3, '0')}`, where, line]),
    );
    expect(works.some(({ over }) => over)).toBe(true);
    expect(shared).toBeGreaterThan(0);
    expect(await world.verify()).toEqual([]);
  });

  const round = (value: number) => Math.round(value * 100_000) / 100_000;
});
