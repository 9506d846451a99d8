import { readFileSync, writeFileSync } from 'node:fs';
import { layOpenLines } from './open-lines';
import type { Figure } from './measure';
import { Stage } from './stage';

/** Bytes of a row of what comes and goes: item and day of 32 bits, quantity of 64; and of a line, with its id and rank. */
const EVENT_BYTES = 16;
const LINE_BYTES = 32;

interface RunShown {
  run: { state: string; done: number; total: number; moved: unknown[] } | null;
}

/**
 * The server while it promises all open lines again: the most memory it holds beyond what it held before, against the
 * bytes its input takes in typed arrays. Read from the process itself, whose peak is set back before each run.
 */
export async function benchMemory(url: string, full: boolean): Promise<Figure[]> {
  const figures: Figure[] = [];
  for (const scale of full ? [10, 1] : [10]) {
    const counts = { items: 10_000 / scale, lines: 100_000 / scale, purchases: 1_000_000 / scale };
    const stage = await Stage.make(url, (to, companyId) => layOpenLines(to, companyId, counts));
    try {
      const input = counts.purchases * EVENT_BYTES + counts.lines * LINE_BYTES;
      const ratios: number[] = [];
      const peaks: number[] = [];
      for (let run = 0; run < 3; run += 1) {
        const before = memoryOf(stage.pid, 'VmRSS');
        writeFileSync(`/proc/${stage.pid}/clear_refs`, '5');
        await stage.post('/api/acts/startRepromise', {});
        for (;;) {
          await new Promise((resolve) => setTimeout(resolve, 200));
          const { run: shown } = (await stage.get('/api/repromise')) as RunShown;
          if (!shown || shown.state === 'waiting' || shown.state === 'running') continue;
          if (shown.state !== 'done' || shown.total !== counts.lines)
            throw new Error(JSON.stringify(shown).slice(0, 300));
          break;
        }
        const peak = memoryOf(stage.pid, 'VmHWM') - before;
        peaks.push(peak);
        ratios.push(peak / input);
      }
      const megabytes = (bytes: number) => `${(bytes / 1e6).toFixed(0)} MB`;
      figures.push({
        name: `memory, ${counts.lines} lines, ${counts.purchases} moves`,
        ours: megabytes(Math.max(...peaks)),
        theirs: megabytes(input),
        ratios,
        aim: scale === 1 ? 'at most 4' : 'a thread and its code',
      });
    } finally {
      await stage.end();
    }
  }
  return figures;
}

/** A line of the process's own account of its memory, in bytes. */
function memoryOf(pid: number, name: 'VmRSS' | 'VmHWM'): number {
  const found = new RegExp(`^${name}:\\s+(\\d+) kB$`, 'm').exec(readFileSync(`/proc/${pid}/status`, 'utf8'));
  if (!found) throw new Error(`${name} of the server cannot be read`);
  return Number(found[1]) * 1024;
}
