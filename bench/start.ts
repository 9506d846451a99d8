import { spawn } from 'node:child_process';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Figure } from './measure';

interface Private {
  startPrivateDatabase(folder: string): Promise<{ url: string; release(): Promise<void> }>;
}

/** `npm start` with everything set up, to the first answer, against starting its database alone. */
export async function benchStart(): Promise<Figure[]> {
  const folder = await mkdtemp(join(tmpdir(), 'kampong-start-'));
  const { startPrivateDatabase } = (await import('../tools/lib/private-database.mjs' as string)) as Private;
  await startToAnswer(folder);
  const ours: number[] = [];
  const theirs: number[] = [];
  for (let run = 0; run < 5; run += 1) {
    ours.push(await startToAnswer(folder));
    const begun = performance.now();
    const database = await startPrivateDatabase(folder);
    theirs.push(performance.now() - begun);
    await database.release();
  }
  await rm(folder, { recursive: true, force: true });
  const mean = (values: number[]) =>
    `${(values.reduce((sum, value) => sum + value, 0) / values.length / 1000).toFixed(2)} s`;
  return [
    {
      name: 'start (difference in s)',
      ours: mean(ours),
      theirs: mean(theirs),
      ratios: ours.map((time, index) => (time - theirs[index]!) / 1000),
      aim: 'at most 2.00 more',
    },
  ];
}

async function startToAnswer(folder: string): Promise<number> {
  const begun = performance.now();
  const child = spawn('npm', ['start', '--', '--data', folder, '--port', '4391', '--work-date', '2027-03-01'], {
    stdio: 'ignore',
    detached: true,
  });
  let answered = false;
  for (let tries = 0; tries < 6000 && !answered; tries += 1) {
    answered = await fetch('http://127.0.0.1:4391/readyz').then(
      (answer) => answer.ok,
      () => false,
    );
    if (!answered) await new Promise((resolve) => setTimeout(resolve, 10));
  }
  const took = performance.now() - begun;
  const ended = new Promise((resolve) => child.once('exit', resolve));
  process.kill(-child.pid!, 'SIGINT');
  await ended;
  if (!answered) throw new Error('npm start did not answer within a minute');
  return took;
}
