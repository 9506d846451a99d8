import type * as z from 'zod';
import type { Day } from '@core/kernel';
import type * as contract from '@api/access';
import type { Columns, Sql } from '../db';
import type { AccessLog } from './tables';

type Upkeep = z.infer<typeof contract.openUpkeep.out>;

/** Results of each job shown at most, the newest of them. */
const MOST_RESULTS = 20;

/** How Kampong itself is. Walks the ends of its logs. */
export async function openUpkeep(sql: Sql, companyId: number, now: Date, workDate: Day): Promise<Upkeep> {
  const jobs = await sql.rows<Upkeep['jobs'][number]>(
    `SELECT job, at, seconds, well, found FROM job_result ORDER BY id DESC LIMIT ${MOST_RESULTS}`,
  );
  const seals = await sql.rows<Upkeep['seals'][number]>(
    `SELECT s.kind, s.through_id AS through, s.at, LOWER(HEX(s.hash)) AS hash FROM seal s
       JOIN (SELECT kind, MAX(through_id) AS through_id FROM seal GROUP BY kind) last
         ON last.kind = s.kind AND last.through_id = s.through_id ORDER BY s.kind`,
  );
  const comings = await sql.rows<Columns<AccessLog, 'id at what name origin detail sessionMark'>>(
    `SELECT id, at, what, name, origin, detail, session_mark FROM access_log
      WHERE company_id = ? OR company_id IS NULL ORDER BY id DESC LIMIT 200`,
    [companyId],
  );
  const here = await sql.rows<Upkeep['here'][number]>(
    `SELECT p.name AS person, MIN(s.created_at) AS since, MAX(s.seen_at) AS seen, COUNT(*) AS windows
       FROM session s JOIN person p ON p.id = s.person_id
      WHERE s.company_id = ? AND s.expires_at > ? GROUP BY p.id, p.name ORDER BY seen DESC LIMIT 100`,
    [companyId, now],
  );
  return {
    here,
    attention: await attentionOf(sql, companyId, now, workDate),
    storage: await storageOf(sql),
    versions: await versionsOf(sql),
    jobs,
    seals,
    comings: comings.map(({ origin, sessionMark, ...row }) => ({ ...row, from: origin, session: sessionMark ?? '' })),
  };
}

const HOUR_MS = 3_600_000;

/** A check, and a copy, older than so many hours is late. */
const LATE_HOURS = 26;

/** Days before a token of a program ends that it is told, and after which a rate of a currency in use is old. */
const ENDING_DAYS = 14;
const OLD_RATE_DAYS = 31;

type Attention = Upkeep['attention'];

/** What should be looked at: checks that are late or found something, what waits for somebody, what ends soon. */
async function attentionOf(sql: Sql, companyId: number, now: Date, workDate: Day): Promise<Attention> {
  const late = new Date(now.getTime() - LATE_HOURS * HOUR_MS);
  const [jobs] = await sql.rows<{ differs: number; checks: number; checked: number; copied: number; copies: number }>(
    `SELECT COALESCE((SELECT NOT v.well FROM job_result v WHERE v.job = 'verify' ORDER BY v.id DESC LIMIT 1), 0) AS differs,
            (SELECT COUNT(*) FROM job_result v WHERE v.job = 'verify') AS checks,
            EXISTS (SELECT 1 FROM job_result v WHERE v.job = 'verify' AND v.at > ?) AS checked,
            EXISTS (SELECT 1 FROM job_result b WHERE b.job = 'backup' AND b.well AND b.at > ?) AS copied,
            (SELECT COUNT(*) FROM job_result b WHERE b.job = 'backup') AS copies`,
    [late, late],
  );
  const { differs, checks, checked, copied, copies } = jobs!;
  const plain: Attention = [
    ...(differs ? [{ what: 'differs' as const, count: 1, day: null }] : []),
    // The first check comes within minutes of the first start.
    ...(checked || checks === 0 ? [] : [{ what: 'not-checked' as const, count: checks, day: null }]),
    ...(copied ? [] : [{ what: 'not-copied' as const, count: copies, day: null }]),
  ];
  const waiting = await sql.rows<Attention[number]>(
    `SELECT 'files' AS what, COUNT(*) AS count, CAST(MIN(b.created_at) AS DATE) AS day FROM bring_in b
      WHERE b.company_id = ? AND b.state IN ('ready', 'stopped')
     UNION ALL SELECT 'invitations', COUNT(*), CAST(MIN(i.expires_at) AS DATE) FROM invitation i
      WHERE i.company_id = ? AND i.person_id IS NULL AND NOT i.withdrawn AND i.expires_at > ?
     UNION ALL SELECT 'tokens', COUNT(*), MIN(t.last_day) FROM program_token t
      WHERE t.company_id = ? AND NOT t.ended AND t.last_day BETWEEN CAST(? AS DATE) AND CAST(? AS DATE) + INTERVAL ${ENDING_DAYS} DAY
     UNION ALL SELECT 'rates', COUNT(*), MIN(r.day) FROM
       (SELECT e.currency, MAX(e.day) AS day FROM exchange_rate e WHERE e.company_id = ? GROUP BY e.currency) r
      WHERE r.day < ? - INTERVAL ${OLD_RATE_DAYS} DAY
        AND (EXISTS (SELECT 1 FROM customer c WHERE c.company_id = ? AND c.currency = r.currency AND NOT c.out_of_use)
          OR EXISTS (SELECT 1 FROM vendor v WHERE v.company_id = ? AND v.currency = r.currency AND NOT v.out_of_use))`,
    [companyId, companyId, now, companyId, now, now, companyId, workDate, companyId, companyId],
  );
  return [...plain, ...waiting.filter(({ count }) => count > 0)];
}

/** Tables shown by name, the largest of them. */
const MOST_TABLES = 8;

async function storageOf(sql: Sql): Promise<Upkeep['storage']> {
  const tables = await sql.rows<{ name: string; rows: string; bytes: string }>(
    `SELECT table_name AS name, COALESCE(table_rows, 0) AS \`rows\`, COALESCE(data_length + index_length, 0) AS bytes
       FROM information_schema.tables WHERE table_schema = DATABASE() ORDER BY bytes DESC`,
  );
  return {
    bytes: tables.reduce((all, { bytes }) => all + Number(bytes), 0),
    tables: tables
      .slice(0, MOST_TABLES)
      .map(({ name, rows, bytes }) => ({ name, rows: Number(rows), bytes: Number(bytes) })),
  };
}

async function versionsOf(sql: Sql): Promise<Upkeep['versions']> {
  const [row] = await sql.rows<{ version: string; migration: string }>(
    'SELECT VERSION() AS version, (SELECT MAX(name) FROM migration) AS migration',
  );
  return { node: process.version, database: row!.version, migration: row!.migration };
}
