import type { Database } from '../db';

export type TerminalAnswer = 'taken' | 'refused' | 'silent';

/**
 * The card terminal's stand-in. It knows a payment by the reference it is asked with: asked again, it answers what it did and
 * charges nothing. Amounts that end in .01 it refuses; to those in .02 it is silent the first time, though it charged. // C2
 */
export async function chargeTerminal(database: Database, reference: string, amount: string): Promise<TerminalAnswer> {
  return database.transaction(async (tx) => {
    await tx.run(
      `INSERT INTO terminal_charge (reference, amount, state) VALUES (?, ?, ?) ON DUPLICATE KEY UPDATE asked = asked + 1`,
      [reference, amount, endsIn(amount, '01') ? 'refused' : 'taken'],
    );
    const [charge] = await tx.rows<{ state: 'taken' | 'refused' | 'given-back'; asked: number }>(
      'SELECT state, asked FROM terminal_charge WHERE reference = ?',
      [reference],
    );
    const { state, asked } = charge!;
    if (endsIn(amount, '02') && asked === 1) return 'silent';
    return state === 'taken' ? 'taken' : 'refused';
  });
}

/**
 * Has the terminal give back all it took under a reference, or a part of what it took under another: once, however often it
 * is asked. What it never took it never gives back.
 */
export async function giveBackAtTerminal(
  database: Database,
  reference: string,
  part: { of: string; amount: string } | null,
): Promise<void> {
  if (part === null) {
    await database.run("UPDATE terminal_charge SET state = 'given-back' WHERE reference = ? AND state = 'taken'", [
      reference,
    ]);
    return;
  }
  await database.run(
    `INSERT INTO terminal_charge (reference, of_reference, amount, state)
     SELECT ?, c.reference, ?, 'given-back' FROM terminal_charge c WHERE c.reference = ? AND c.state = 'taken'
         ON DUPLICATE KEY UPDATE asked = terminal_charge.asked + 1`,
    [reference, part.amount, part.of],
  );
}

const endsIn = (amount: string, cents: string) => (amount.split('.')[1] ?? '00').padEnd(2, '0').slice(0, 2) === cents;
