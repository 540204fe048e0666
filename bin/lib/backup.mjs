// Back-up of a data folder, and the way back: the database as a dump, the bytes as files, a note that says what they are. Dependency-free.
import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import {
  createReadStream,
  createWriteStream,
  existsSync,
  linkSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { basename, dirname, join, relative } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { serverAt, startCluster } from './cluster.mjs';
import { dump, query, urlOf } from './database.mjs';
import { holderOf, hold, release } from './lock.mjs';
import { postgresBin, postgresVersions } from './packages.mjs';
import {
  clusterDir,
  finishReplacing,
  removeServer,
  replaceFolder,
  serverOf,
  versionOf,
} from './postgres.mjs';

const NOTE = 'backup.json';
const FORMAT = 1;
const DUMP = 'database.dump';
/** Folders of bytes; what can be made again is left out. */
const KEPT = ['blobs', 'packages', 'uploads'];
/** Who holds this in the database keeps blobs from being freed (see src/server/services/blobs.ts). */
const BLOB_LOCK = 7_061_977;

const stamp = () => new Date().toISOString().slice(0, 19).replaceAll(':', '-');

/** Second names that a killed back-up left in a data folder. */
export function sweepBackups(dataDir) {
  for (const name of readdirSync(dataDir)) {
    const pid = /^backup\.(\d+)$/.exec(name)?.[1];
    if (pid !== undefined && !existsSync(`/proc/${pid}`))
      rmSync(join(dataDir, name), { recursive: true, force: true });
  }
}

/** Paths of all files below a folder, relative to it. */
const filesBelow = (folder) =>
  existsSync(folder)
    ? readdirSync(folder, { recursive: true, withFileTypes: true })
        .filter((e) => e.isFile())
        .map((e) => relative(folder, join(e.parentPath ?? e.path, e.name)))
    : [];

async function shaOf(path) {
  const hash = createHash('sha256');
  await pipeline(createReadStream(path), hash);
  return hash.digest('hex');
}

/** Copies a file and returns the hash of what was copied. */
async function copy(from, to) {
  mkdirSync(dirname(to), { recursive: true, mode: 0o700 });
  const hash = createHash('sha256');
  await pipeline(
    createReadStream(from),
    async function* (source) {
      for await (const part of source) {
        hash.update(part);
        yield part;
      }
    },
    createWriteStream(to, { mode: 0o600, flush: true }),
  );
  return hash.digest('hex');
}

/** The cluster of a folder as it runs, or started for a while. */
async function reach(dataDir) {
  const running = serverOf(clusterDir(dataDir));
  if (holderOf(dataDir) !== null) {
    if (running === null) throw new Error('Fernmoss is just starting or stopping; try again in a moment');
    return { server: serverAt(dataDir, running.port, versionOf(clusterDir(dataDir))), leave: () => {} };
  }
  hold(dataDir);
  const cluster = await startCluster(dataDir);
  return {
    server: cluster.server,
    leave: () => {
      cluster.stop();
      release(dataDir);
    },
  };
}

/** Runs `work` while no blob is freed. */
async function keepingBlobs(server, work) {
  const psql = spawn(
    join(postgresBin(server.version), 'psql'),
    ['-X', '-q', '-At', '-v', 'ON_ERROR_STOP=1', urlOf(server).replace(/:[^:@]*@/, '@')],
    { env: { ...process.env, PGPASSWORD: server.applicationSecret }, stdio: ['pipe', 'pipe', 'inherit'] },
  );
  try {
    await new Promise((resolve, reject) => {
      psql.stdout.once('data', resolve);
      psql.once('error', reject);
      psql.once('exit', () => reject(new Error('the database ended the back-up’s connection')));
      psql.stdin.write(`select pg_advisory_lock_shared(${BLOB_LOCK});\n`);
    });
    return await work();
  } finally {
    psql.removeAllListeners('exit').on('exit', () => {});
    psql.kill();
  }
}

/**
 * Writes a back-up into a new folder below `target`; Fernmoss may run meanwhile. The folder gets its name only when all is in it.
 * Returns its path, what is in it, and the bytes found damaged while they were copied.
 */
export async function backUp(dataDir, target) {
  mkdirSync(target, { recursive: true });
  const folder = join(target, `fernmoss-${stamp()}`);
  const half = `${folder}.part`;
  mkdirSync(half, { mode: 0o700 });
  // Second names for the bytes of this moment: they stay while they are copied, whatever is deleted in the page.
  const links = join(dataDir, `backup.${process.pid}`);
  const { server, leave } = await reach(dataDir);
  try {
    await keepingBlobs(server, async () => {
      dump(server, join(half, DUMP));
      for (const part of KEPT)
        for (const file of filesBelow(join(dataDir, part))) {
          const to = join(links, part, file);
          mkdirSync(dirname(to), { recursive: true, mode: 0o700 });
          try {
            linkSync(join(dataDir, part, file), to);
          } catch (error) {
            // A package that was removed while it was listed.
            if (error.code !== 'ENOENT') throw error;
          }
        }
    });
    const inPlace = Number(query(server, 'select count(*) from in_place_files'));
    const sessions = Number(query(server, 'select count(*) from sessions'));
    const files = {};
    const damaged = [];
    let bytes = 0;
    for (const file of filesBelow(links)) {
      files[file] = await copy(join(links, file), join(half, file));
      bytes += statSync(join(half, file)).size;
      if (file.startsWith('blobs') && files[file] !== basename(file)) damaged.push(file);
    }
    files[DUMP] = await shaOf(join(half, DUMP));
    const note = {
      format: FORMAT,
      made: new Date().toISOString(),
      postgres: server.version,
      sessions,
      inPlace,
    };
    writeFileSync(join(half, NOTE), JSON.stringify({ ...note, bytes, damaged, files }, null, 1), {
      flush: true,
    });
    renameSync(half, folder);
    return { folder, sessions, inPlace, bytes, damaged };
  } finally {
    leave();
    rmSync(links, { recursive: true, force: true });
    rmSync(half, { recursive: true, force: true });
  }
}

/** Reads the note of a back-up and compares every file with it; throws with the first that is not as it was. */
async function checked(backup) {
  if (!existsSync(join(backup, NOTE)))
    throw new Error(
      `${backup} is no back-up of Fernmoss, or one that was not finished: there is no ${NOTE} in it`,
    );
  const note = JSON.parse(readFileSync(join(backup, NOTE), 'utf8'));
  if (note.format !== FORMAT)
    throw new Error(`the back-up is in format ${note.format}; this Fernmoss reads format ${FORMAT}`);
  for (const [file, sha] of Object.entries(note.files)) {
    const path = join(backup, file);
    if (relative(backup, path).startsWith('..'))
      throw new Error(`the back-up names a file outside itself: ${file}`);
    if (!existsSync(path)) throw new Error(`the back-up is not complete: ${file} is missing`);
    if ((await shaOf(path)) !== sha)
      throw new Error(`the back-up is damaged: ${file} is not what was written`);
  }
  return note;
}

/**
 * Makes a data folder from a back-up. All is read and made before anything is put in place; the folder that was there is kept under another name.
 * Returns what was in the back-up, and where the former folder is (null when there was none).
 */
export async function restore(backup, dataDir) {
  const note = await checked(backup);
  finishReplacing(dataDir);
  const hadData = existsSync(dataDir) && readdirSync(dataDir).length > 0;
  if (hadData) hold(dataDir);
  const fresh = `${dataDir}.restoring`;
  if (existsSync(fresh)) removeServer(clusterDir(fresh));
  rmSync(fresh, { recursive: true, force: true });
  try {
    mkdirSync(fresh, { recursive: true, mode: 0o711 });
    for (const file of Object.keys(note.files))
      if (file !== DUMP) await copy(join(backup, file), join(fresh, file));
    const cluster = await startCluster(fresh, { dumpFile: join(backup, DUMP) });
    cluster.stop();
  } finally {
    if (hadData) release(dataDir);
  }
  const aside = `${dataDir}.before-restore-${stamp()}`;
  replaceFolder(fresh, dataDir, aside);
  if (!hadData) rmSync(aside, { recursive: true, force: true });
  return { ...note, aside: hadData ? aside : null };
}

/**
 * Moves the data of a folder to the newest PostgreSQL that is installed, by a dump; the former cluster is kept beside it.
 * Returns the versions and where the former one is; null when there is nothing to do. `isForced`: also to the same version.
 */
export async function upgrade(dataDir, isForced = false) {
  const dir = clusterDir(dataDir);
  finishReplacing(dir);
  const from = versionOf(dir);
  if (from === null) throw new Error(`there is no data in ${dataDir}`);
  const to = postgresVersions()[0];
  if (from === to && !isForced) return null;
  hold(dataDir);
  const half = join(dataDir, 'database.dump');
  try {
    const old = await startCluster(dataDir);
    try {
      dump(old.server, half);
    } finally {
      old.stop();
    }
    const fresh = `${dir}.upgrading`;
    removeServer(fresh);
    const cluster = await startCluster(dataDir, { dir: fresh, dumpFile: half });
    cluster.stop();
    const aside = `${dir}.${from}-${stamp()}`;
    replaceFolder(fresh, dir, aside);
    return { from, to, aside };
  } finally {
    rmSync(half, { force: true });
    release(dataDir);
  }
}
