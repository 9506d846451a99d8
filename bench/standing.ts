import type { Figure } from './measure';
import { WORK_DATE, type Stage } from './stage';

/** Orders of standing orders made in one run, one after the other as the clock does, against as many releases of agreements. */
export async function benchStanding(stage: Stage, full: boolean): Promise<Figure[]> {
  const { database, masters, actor } = stage;
  const many = full ? 10_000 : 240;
  const runs = 4;
  const item = 'SALT-25';
  const customer = [...masters.customers.values()][0]!;
  const standing: number[] = [];
  for (let at = 0; at < many; at += 1) {
    const [id] = await actor.does(
      'saveStanding',
      {
        id: null,
        version: null,
        customerId: customer.id,
        shipToId: customer.shipTos[0],
        customerReference: 'Weekly',
        rule: 'FREQ=WEEKLY;BYDAY=TU',
        firstDay: '2027-03-02',
        lastDay: null,
        aheadDays: '3',
        closed: 'after',
        from: null,
        lines: [{ itemId: masters.items.get(item)!.id, quantity: '6', unit: '' }],
      },
      WORK_DATE,
    );
    standing.push(id!);
  }
  const agreement = await stage.agreement([item], '100000000');
  const part = many / runs;
  const timed = async (work: () => Promise<void>): Promise<number> => {
    const from = performance.now();
    await work();
    return (part / (performance.now() - from)) * 1000;
  };
  const ours: number[] = [];
  const theirs: number[] = [];
  for (let run = 0; run < runs; run += 1) {
    ours.push(
      await timed(async () => {
        for (const id of standing.slice(run * part, (run + 1) * part)) {
          await actor.does('makeStanding', { id, day: '2027-03-02' }, WORK_DATE);
        }
      }),
    );
    theirs.push(
      await timed(async () => {
        for (let at = 0; at < part; at += 1) {
          const [id] = await actor.does('releaseAgreement', stage.releaseOf(agreement, '6'), WORK_DATE);
          await actor.does('confirmOrder', { id, version: 1 }, WORK_DATE);
        }
      }),
    );
  }
  const [made] = await database.rows<{ n: number }>("SELECT COUNT(*) AS n FROM standing_date WHERE state = 'made'");
  if (made!.n !== many) throw new Error(`${made!.n} of ${many} dates were made`);
  const mean = (values: number[]) => (values.reduce((sum, value) => sum + value, 0) / values.length).toFixed(0);
  return [
    {
      name: `standing, ${many} dates in a run`,
      ours: `${mean(ours)}/s`,
      theirs: `${mean(theirs)}/s`,
      ratios: ours.map((rate, index) => rate / theirs[index]!),
      aim: 'at least 0.5',
    },
  ];
}
