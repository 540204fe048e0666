// PostgreSQL's programs, of the version a cluster was made by, and where the cluster of a data folder lies. Dependency-free.
import { spawnSync } from 'node:child_process';
import { createHash, randomBytes } from 'node:crypto';
import { chownSync, existsSync, mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { postgresBin, postgresVersions } from './packages.mjs';

const isRoot = process.getuid() === 0;

/** The role that makes roles and databases; the page and the worker never use it. */
export const ADMINISTRATOR = 'fernmoss';

const asPostgres = (command, args) =>
  isRoot ? ['runuser', ['-u', 'postgres', '--', command, ...args]] : [command, args];

/** Runs a program of PostgreSQL; it refuses root, so root becomes `postgres` for it. */
export function run(program, args, version = null, options = {}) {
  const bin = postgresBin(version);
  if (bin === null) throw new Error(missingVersion(version));
  const [command, rest] = asPostgres(join(bin, program), args);
  return spawnSync(command, rest, { encoding: 'utf8', cwd: '/', maxBuffer: 2 ** 26, ...options });
}

/** What to do when a newer PostgreSQL took the place of the one that made the data. */
const missingVersion = (version) =>
  `the data was made by PostgreSQL ${version}, which is not installed (there is: ${postgresVersions().join(', ') || 'none'}). ` +
  `Install it beside the others (Debian: apt-get install postgresql-${version}) and start again, or move the data to a newer one with “npm run upgrade”; nothing was changed.`;

/** Version that made a cluster; null when there is none yet. Its files are not ours to read as every user. */
export function versionOf(dir) {
  const [command, rest] = asPostgres('cat', [join(dir, 'PG_VERSION')]);
  const read = spawnSync(command, rest, { encoding: 'utf8', cwd: '/' });
  return read.status === 0 ? read.stdout.trim() : null;
}

/** Says where the cluster is when it is not inside its data folder; goes with the folder when that is moved. */
const PLACE = 'database-place';

/** Where the cluster of a data folder lies: inside it, or beside, when `postgres` may not enter (a folder under /root). */
export function clusterDir(dataDir) {
  const note = join(dataDir, PLACE);
  const noted = existsSync(note) ? readFileSync(note, 'utf8').trim() : '';
  if (noted !== '') return noted;
  if (!isRoot) return join(dataDir, 'postgres');
  const canEnter = spawnSync('runuser', ['-u', 'postgres', '--', 'test', '-x', dataDir]).status === 0;
  if (canEnter) return join(dataDir, 'postgres');
  const outside = `/var/lib/fernmoss-${createHash('sha256').update(dataDir).digest('hex').slice(0, 12)}`;
  if (existsSync(dataDir)) writeWhole(note, outside);
  return outside;
}

/** A secret of a data folder, made when first asked for. */
export function secret(dataDir, name) {
  const path = join(dataDir, name);
  // An empty one was left by a start that was killed: nothing was locked by it yet.
  if (!existsSync(path) || readFileSync(path, 'utf8').trim() === '')
    writeWhole(path, randomBytes(24).toString('hex'));
  return readFileSync(path, 'utf8').trim();
}

/** Writes a file for this user alone that is whole or not there, whenever this process is killed. */
function writeWhole(path, text) {
  writeFileSync(`${path}.new`, text, { mode: 0o600, flush: true });
  renameSync(`${path}.new`, path);
}

/** Makes a cluster by the newest PostgreSQL there is; its folder appears only when it is whole. */
export function initialise(dir, password) {
  const half = `${dir}.new`;
  rmSync(half, { recursive: true, force: true });
  mkdirSync(dirname(dir), { recursive: true });
  mkdirSync(half, { mode: 0o700 });
  const secretFile = join(tmpdir(), `fernmoss-${randomBytes(8).toString('hex')}`);
  writeFileSync(secretFile, password, { mode: 0o600 });
  if (isRoot) {
    const { uid, gid } = statPostgres();
    chownSync(half, uid, gid);
    chownSync(secretFile, uid, gid);
  }
  // Bytes that changed on the disk are told, not served.
  const checks = ['-E', 'UTF8', '--locale=C.UTF-8', '--data-checksums'];
  const who = ['-U', ADMINISTRATOR, '-A', 'scram-sha-256', `--pwfile=${secretFile}`];
  const done = run('initdb', ['-D', half, ...who, ...checks]);
  rmSync(secretFile, { force: true });
  if (done.status !== 0) throw new Error(`initdb failed:\n${done.stderr}`);
  renameSync(half, dir);
}

function statPostgres() {
  const [, , uid, gid] = spawnSync('getent', ['passwd', 'postgres'], { encoding: 'utf8' }).stdout.split(':');
  return { uid: Number(uid), gid: Number(gid) };
}

/** Process id and port of the cluster's server; null when it does not run. */
export function serverOf(dir) {
  let pid;
  let port;
  try {
    const lines = readFileSync(join(dir, 'postmaster.pid'), 'utf8').split('\n');
    [pid, port] = [Number(lines[0]), Number(lines[3])];
    process.kill(pid, 0);
  } catch (error) {
    // EPERM: not ours to signal, but there.
    if (error.code !== 'EPERM') return null;
  }
  return { pid, port };
}

/**
 * Puts a folder in the place of another, which is kept under the name `aside`. A kill in between is finished by
 * {@link finishReplacing}: at no moment is there neither.
 */
export function replaceFolder(made, place, aside) {
  const ready = `${place}.ready`;
  rmSync(ready, { recursive: true, force: true });
  renameSync(made, ready);
  if (existsSync(place)) renameSync(place, aside);
  renameSync(ready, place);
}

/** Finishes what a kill cut off inside {@link replaceFolder}. */
export function finishReplacing(place) {
  if (!existsSync(place) && existsSync(`${place}.ready`)) renameSync(`${place}.ready`, place);
}

/** Ends a server that a kill left running on a folder, and removes the folder. */
export function removeServer(dir) {
  if (serverOf(dir) !== null) run('pg_ctl', ['-D', dir, '-m', 'immediate', '-w', 'stop'], versionOf(dir));
  rmSync(dir, { recursive: true, force: true });
}
