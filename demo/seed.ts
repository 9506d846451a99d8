import { parseArgs } from 'node:util';
import { format } from 'date-fns';
import { connect } from '../server/db';
import { migrate } from '../server/db/migrate';
import { isEmpty, layDemo } from './lay';

/** `--scale 10k --seed 7 --work-date 2027-03-01`: lays a demo of about that many order lines into an empty database. */
async function main(): Promise<void> {
  const { values } = parseArgs({
    options: {
      scale: { type: 'string', default: '0' },
      seed: { type: 'string', default: '7' },
      'work-date': { type: 'string' },
    },
  });
  const scale = /^(\d+)(k?)$/.exec(values.scale);
  if (!scale) throw new Error(`--scale takes a number of order lines like 500 or 10k, not ${values.scale}.`);
  const lines = Number(scale[1]) * (scale[2] ? 1000 : 1);
  const url = process.env['DATABASE_URL']!;
  await migrate(url, 'server/db/sql');
  const database = connect(url, 8);
  try {
    if (!(await isEmpty(database))) {
      throw new Error('This database holds data already; empty it or name another with DATABASE_URL.');
    }
    await layDemo(database, {
      seed: Number(values.seed),
      moreOrders: Math.ceil(lines / 2),
      workDate: values['work-date'] ?? format(new Date(), 'yyyy-MM-dd'),
      fixed: values['work-date'] !== undefined,
    });
    console.log('The demo is laid.');
  } finally {
    await database.close();
  }
}

main().catch((error: Error) => {
  console.error(error.message);
  process.exitCode = 1;
});
