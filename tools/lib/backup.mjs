import { execFile } from 'node:child_process';
import { cp, mkdir, readdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import { promisify } from 'node:util';
import { createConnection } from 'mysql2/promise';
import { ensurePrograms } from './install.mjs';
import { socketPath } from './private-database.mjs';

const PROGRAMS = { env: { ...process.env, PATH: `${process.env.PATH}:/usr/sbin` }, maxBuffer: 256 * 1024 * 1024 };
const program = (name, args) =>
  promisify(execFile)(name, args, PROGRAMS).catch((error) => {
    const last = String(error.stderr ?? '')
      .trim()
      .split('\n')
      .slice(-6)
      .join('\n');
    throw new Error(`${name} ended with ${error.code}:\n${last}`);
  });

/** The name of a moment as a folder: `2027-03-01T08-30-00`. */
const nameOf = (moment) => moment.toISOString().slice(0, 19).replaceAll(':', '-');

/** The folder of the private database, its owner's password and its socket. */
async function instanceOf(data) {
  const folder = resolve(data);
  const password = await readFile(join(folder, 'password'), 'utf8').catch(() => {
    throw new Error(`There is no database in ${folder}.`);
  });
  return { folder, password, socket: socketPath(folder) };
}

async function query({ socket, password }, ...statements) {
  const connection = await createConnection({ socketPath: socket, user: 'root', password, multipleStatements: true });
  try {
    let rows;
    for (const statement of statements) [rows] = await connection.query(statement);
    return rows;
  } finally {
    await connection.end();
  }
}

async function bytesIn(folder) {
  let bytes = 0;
  for (const entry of await readdir(folder, { withFileTypes: true, recursive: true })) {
    if (entry.isFile()) bytes += (await stat(join(entry.parentPath ?? entry.path, entry.name))).size;
  }
  return bytes;
}

/**
 * A copy of the running private database at one moment, by the database's own tools, made ready to be started, and the
 * changes since the copy before in `changes/`; it stands under its name only when it is whole. People go on working.
 * What was copied, how large it is and how long it took.
 */
export async function backup(data, to, moment = new Date()) {
  await ensurePrograms('mariadb-backup');
  const begun = performance.now();
  const instance = await instanceOf(data);
  const folder = resolve(to);
  const name = nameOf(moment);
  const part = join(folder, `${name}.part`);
  await rm(part, { recursive: true, force: true });
  await mkdir(part, { recursive: true });
  const as = ['--no-defaults'];
  await program('mariadb-backup', [
    ...as,
    '--backup',
    `--target-dir=${join(part, 'data')}`,
    `--datadir=${join(instance.folder, 'data')}`,
    `--socket=${instance.socket}`,
    '--user=root',
    `--password=${instance.password}`,
  ]);
  const at = (await readFile(join(part, 'data', 'xtrabackup_binlog_info'), 'utf8').catch(() => '')).trim().split(/\s+/);
  await program('mariadb-backup', [...as, '--prepare', `--target-dir=${join(part, 'data')}`]);
  const bytes = await bytesIn(part);
  const seconds = (performance.now() - begun) / 1000;
  const about = { made: moment.toISOString(), changesFrom: { file: at[0], position: Number(at[1]) }, bytes, seconds };
  await writeFile(join(part, 'about.json'), JSON.stringify(about, null, 2));
  await rename(part, join(folder, name));
  await keepChanges(data, to);
  return { ...about, folder: join(folder, name) };
}

/** Copies what was changed since into `changes/`: all that is closed, and it closes what is being written. */
export async function keepChanges(data, to) {
  const instance = await instanceOf(data);
  const changes = join(resolve(to), 'changes');
  await mkdir(changes, { recursive: true });
  const logs = await query(instance, 'FLUSH BINARY LOGS', 'SHOW BINARY LOGS');
  for (const { Log_name: file, File_size: size } of logs.slice(0, -1)) {
    const there = await stat(join(changes, file)).catch(() => null);
    if (there?.size === Number(size)) continue;
    await cp(join(instance.folder, 'data', file), join(changes, `${file}.part`));
    await rename(join(changes, `${file}.part`), join(changes, file));
  }
}

/** The newest whole copy in a folder; null where there is none. */
export async function newestIn(folder) {
  const names = await readdir(resolve(folder)).catch(() => []);
  const whole = names.filter((name) => /^\d{4}-\d\d-\d\dT\d\d-\d\d-\d\d$/.test(name)).sort();
  return whole.length > 0 ? join(resolve(folder), whole.at(-1)) : null;
}

/**
 * Lays a copy into an empty folder and starts it by `start`; then the changes since, up to a moment or all of them.
 * Answers what `start` did, and how many files of changes went in.
 */
export async function restore({ from, data, changes, until, start }) {
  await ensurePrograms('mariadb-backup', 'mariadb-binlog', 'mariadb');
  const about = JSON.parse(
    await readFile(join(from, 'about.json'), 'utf8').catch(() => {
      throw new Error(`There is no whole copy in ${from}.`);
    }),
  );
  const folder = resolve(data);
  if ((await readdir(folder).catch(() => [])).length > 0) {
    throw new Error(`${folder} is not empty; bring it back into an empty folder.`);
  }
  await mkdir(folder, { recursive: true });
  await program('mariadb-backup', [
    '--no-defaults',
    '--copy-back',
    `--target-dir=${join(from, 'data')}`,
    `--datadir=${join(folder, 'data')}`,
  ]);
  const started = await start(folder);
  const files = await changesSince(changes, about.changesFrom.file);
  if (files.length > 0) {
    const sql = join(folder, 'changes.sql');
    await program('mariadb-binlog', [
      '--no-defaults',
      `--start-position=${about.changesFrom.position}`,
      // As written, in UTC.
      ...(until ? [`--stop-datetime=${localOf(until)}`] : []),
      `--result-file=${sql}`,
      ...files,
    ]);
    const { password, socket } = await instanceOf(folder);
    await promisify(execFile)(
      'sh',
      ['-c', 'exec mariadb --no-defaults --binary-mode --user=root --socket="$1" < "$2"', 'sh', socket, sql],
      { ...PROGRAMS, env: { ...PROGRAMS.env, MYSQL_PWD: password } },
    );
    await rm(sql);
  }
  return { ...started, files: files.length };
}

/** Files of changes from that one on, in their order. */
async function changesSince(folder, first) {
  if (!folder || !first) return [];
  const names = await readdir(resolve(folder)).catch(() => []);
  return names
    .filter((name) => /^changes\.\d+$/.test(name) && name >= first)
    .sort()
    .map((name) => join(resolve(folder), name));
}

/** A moment as the tool reads it: in the zone of this machine. */
function localOf(iso) {
  const moment = new Date(iso);
  if (Number.isNaN(moment.getTime())) throw new Error(`${iso} is no moment; write it like 2027-03-01T08:30:00Z.`);
  const two = (value) => String(value).padStart(2, '0');
  return `${moment.getFullYear()}-${two(moment.getMonth() + 1)}-${two(moment.getDate())} ${two(moment.getHours())}:${two(moment.getMinutes())}:${two(moment.getSeconds())}`;
}
