import { createHash, randomBytes } from 'node:crypto';
import { decideHandled, isDue, reminderDay, reminderWords, type ReminderKind } from '@core/agreements';
import { share, type Day } from '@core/kernel';
import * as contract from '@api/agreements';
import { defineAct } from '../../acts';
import type { Database, Sql, Columns } from '../../db';
import { loadAgreement } from '../terms/store';
import type { Agreement, AgreementReminder } from '../tables';

/** A fired reminder was seen to: it leaves Today. // A9 */
export const handleReminder = defineAct(contract.handleReminder, {
  right: 'agreements',
  says: 'see to reminders',
  done: 'reminder seen to',
  async load(tx, input, doer) {
    const head = await loadAgreement(tx, doer.companyId, input.agreementId);
    const at = /^-?\d{1,4}(\.\d{1,2})?$/.test(input.at) ? input.at : '-9999';
    const [reminder] = await tx.rows<{ id: number }>(
      `SELECT id FROM agreement_reminder
        WHERE company_id = ? AND agreement_id = ? AND kind = ? AND at_value = ? AND fired_on IS NOT NULL AND handled_on IS NULL`,
      [doer.companyId, head.id, input.kind, at],
    );
    return { head, reminder: reminder ?? null };
  },
  decide: ({ reminder }, input) => decideHandled(reminder, input),
  preview: ({ words }) => ({ reminder: words }),
  async write(tx, { id }, { head }, doer) {
    await tx.run('UPDATE agreement_reminder SET handled_on = ? WHERE company_id = ? AND id = ?', [
      doer.workDate,
      doer.companyId,
      id,
    ]);
    return { made: [], touched: [{ kind: 'AG', id: head.id, number: head.number }] };
  },
});

type Waiting = Columns<AgreementReminder, 'id agreementId kind atValue'> &
  Columns<Agreement, 'number firstDay lastDay shippedValue committedValue'>;

const WAITING = `SELECT r.id, r.agreement_id, a.number, r.kind, r.at_value, a.first_day, a.last_day, a.shipped_value, a.committed_value
   FROM agreement a JOIN agreement_reminder r ON r.company_id = a.company_id AND r.agreement_id = a.id
  WHERE a.company_id = ? AND a.state IN ('in-force', 'paused') AND r.fired_on IS NULL ORDER BY a.id, r.id`;

function dueOf(rows: readonly Waiting[], workDate: Day): Waiting[] {
  return rows.filter((row) =>
    isDue(
      { kind: row.kind, at: row.atValue },
      {
        firstDay: row.firstDay,
        lastDay: row.lastDay,
        fulfilled: share(row.shippedValue, row.committedValue),
      },
      workDate,
    ),
  );
}

/** Fires every reminder whose moment has come, each once; done by the clock. // A9 */
export const fireReminders = defineAct(contract.fireReminders, {
  right: 'agreements',
  says: 'fire reminders',
  done: 'reminders fired',
  async load(tx, _input, doer) {
    const rows = await tx.rows<Waiting>(`${WAITING} ${tx.forUpdate}`, [doer.companyId]);
    return dueOf(rows, doer.workDate);
  },
  decide: (due) => ({ ok: true as const, effects: due, warnings: [] }),
  preview: (due) => ({ fired: due.length }),
  async write(tx, due, _ground, doer) {
    if (due.length > 0) {
      await tx.run(
        'UPDATE agreement_reminder SET fired_on = ? WHERE company_id = ? AND id IN (?) AND fired_on IS NULL',
        [doer.workDate, doer.companyId, due.map((row) => row.id)],
      );
    }
    const touched = new Map(due.map((row) => [row.agreementId, row.number]));
    return { made: [], touched: [...touched].map(([id, number]) => ({ kind: 'AG', id, number })) };
  },
});

/** True where firing would do something: looked at without a lock. */
export async function remindersDue(sql: Sql, companyId: number, workDate: Day): Promise<boolean> {
  return dueOf(await sql.rows<Waiting>(WAITING, [companyId]), workDate).length > 0;
}

const hashOf = (token: string) => createHash('sha256').update(token).digest();

/** A new private address for a person's feed; the one before stops working. // A9 */
export async function renewFeed(database: Database, companyId: number, personId: number): Promise<string> {
  const token = randomBytes(24).toString('base64url');
  await database.run(
    `INSERT INTO calendar_feed (company_id, person_id, token_hash) VALUES (?, ?, ?)
     ON DUPLICATE KEY UPDATE token_hash = VALUES(token_hash), made_at = CURRENT_TIMESTAMP(3)`,
    [companyId, personId, hashOf(token)],
  );
  return token;
}

export interface FeedEntry {
  /** Stable, so that a calendar knows the entry again. */
  id: string;
  day: Day;
  title: string;
  text: string;
  path: string;
}

/** What a feed with that token shows: reminders with their day, and last days; null where nobody has the token. */
export async function feedOf(sql: Sql, token: string): Promise<{ company: string; entries: FeedEntry[] } | null> {
  const [feed] = await sql.rows<{ companyId: number; name: string }>(
    `SELECT f.company_id, c.name FROM calendar_feed f
       JOIN company c ON c.id = f.company_id
       JOIN person p ON p.id = f.person_id AND p.active = TRUE
       JOIN person_role r ON r.person_id = f.person_id AND r.company_id = f.company_id
      WHERE f.token_hash = ?`,
    [hashOf(token)],
  );
  if (!feed) return null;
  const rows = await sql.rows<{
    agreementId: number;
    number: string;
    party: string;
    lastDay: Day;
    kind: ReminderKind | null;
    atValue: string | null;
    firedOn: Day | null;
  }>(
    `SELECT a.id AS agreement_id, a.number, COALESCE(c.name, v.name) AS party, a.last_day, r.kind, r.at_value, r.fired_on
       FROM agreement a
       LEFT JOIN customer c ON c.company_id = a.company_id AND c.id = a.customer_id
       LEFT JOIN vendor v ON v.company_id = a.company_id AND v.id = a.vendor_id
       LEFT JOIN agreement_reminder r ON r.company_id = a.company_id AND r.agreement_id = a.id AND r.handled_on IS NULL
      WHERE a.company_id = ? AND a.state IN ('in-force', 'paused') ORDER BY a.id, r.id`,
    [feed.companyId],
  );
  const entries = new Map<string, FeedEntry>();
  for (const row of rows) {
    const path = `/agreements/${row.agreementId}`;
    entries.set(`${row.number}-end`, {
      id: `${row.number}-end`,
      day: row.lastDay,
      title: `${row.number} with ${row.party} ends`,
      text: 'Wrap it up, extend it or renew it.',
      path,
    });
    if (row.kind === null) continue;
    const at = row.atValue!;
    // Only a reminder by days has its day before it fires.
    const day = row.firedOn ?? reminderDay({ kind: row.kind, at }, row.lastDay);
    if (!day) continue;
    const id = `${row.number}-${row.kind}-${at}`;
    const words = reminderWords({ kind: row.kind, at });
    entries.set(id, { id, day, title: `${row.number} with ${row.party}: ${words}`, text: words, path });
  }
  return { company: feed.name, entries: [...entries.values()] };
}
