import type { Logger } from 'pino';
import type { Doer } from '../acts';
import type { Database } from '../db';
import { feedMarkets } from './market';
import { vendorsAct } from './vendor';

/**
 * Lets the outside parties of a demo company live on when its work date has moved: vendors answer, deliver and invoice,
 * markets give prices. Each day once, by whichever server looks first; a demo that was just laid stays as it is.
 * How many acts were done.
 */
export async function standIn(database: Database, log: Logger, doer: Doer, seed: number): Promise<number> {
  const { companyId, workDate } = doer;
  const [company] = await database.rows<{ stoodInOn: string | null }>(
    'SELECT stood_in_on FROM company WHERE id = ? AND demo AND NOT (stood_in_on <=> ?)',
    [companyId, workDate],
  );
  if (!company) return 0;
  const mine = await database.run('UPDATE company SET stood_in_on = ? WHERE id = ? AND NOT (stood_in_on <=> ?)', [
    workDate,
    companyId,
    workDate,
  ]);
  if (mine === 0 || company.stoodInOn === null || company.stoodInOn > workDate) return 0;
  return (await feedMarkets(database, log, doer, seed)) + (await vendorsAct(database, log, doer, seed));
}
export { chargeTerminal, giveBackAtTerminal, type TerminalAnswer } from './terminal';
