import { rateOf, type Figure } from './measure';
import type { Stage } from './stage';

/** Releasing three lines of one hot agreement, 16 clients at once, against one client doing the same. */
export async function benchRelease(stage: Stage, full: boolean): Promise<Figure[]> {
  const each = full ? 400 : 120;
  const runs = 5;
  const agreement = await stage.agreement(['RO-4040', 'RO-2540', 'HY-25'], '1000000');
  const release = async () => {
    await stage.post('/api/acts/releaseAgreement', stage.releaseOf(agreement, '1'));
  };
  const jobs = Array.from({ length: each });
  await rateOf(jobs.slice(0, 20), 4, release);
  const ours: number[] = [];
  const theirs: number[] = [];
  for (let run = 0; run < runs; run += 1) {
    theirs.push(await rateOf(jobs, 1, release));
    ours.push(await rateOf(jobs, 16, release));
  }
  const expected = 20 + each * runs * 2;
  const lines = await stage.database.rows<{ released: string }>(
    'SELECT released FROM agreement_line WHERE agreement_id = ?',
    [agreement.id],
  );
  for (const line of lines) {
    if (Number(line.released) !== expected) {
      throw new Error(`a unit was lost or doubled: ${line.released} released, ${expected} asked`);
    }
  }
  const mean = (values: number[]) => (values.reduce((sum, value) => sum + value, 0) / values.length).toFixed(0);
  return [
    {
      name: 'release, 16 against 1',
      ours: `${mean(ours)}/s`,
      theirs: `${mean(theirs)}/s`,
      ratios: ours.map((rate, index) => rate / theirs[index]!),
      aim: 'at least 0.8, none lost',
    },
  ];
}
