// Installs what is missing: npm packages and Debian packages. Dependency-free.
import { execFileSync, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { giveUp, ROOT, say } from './say.mjs';

const STAMP = join(ROOT, 'node_modules', '.fernmoss-lock');

/** npm packages as the lock file names them; nothing to do when they are there already. */
export function ensureNpmPackages() {
  const wanted = createHash('sha256')
    .update(readFileSync(join(ROOT, 'package-lock.json')))
    .digest('hex');
  if (existsSync(STAMP) && readFileSync(STAMP, 'utf8') === wanted) return;
  say('installing npm packages (once, about a minute)');
  const npm = (args) =>
    spawnSync('npm', args, { cwd: ROOT, stdio: ['ignore', 'ignore', 'pipe'], encoding: 'utf8' });
  const flags = ['--no-audit', '--no-fund', '--include=dev'];
  let done = npm(['ci', ...flags]);
  // Some registries lack other platforms' optional packages; then `npm ci` refuses a good lock.
  if (done.status !== 0) done = npm(['install', '--no-save', ...flags]);
  if (done.status !== 0) giveUp(`npm could not install the packages:\n${done.stderr}`);
  mkdirSync(join(ROOT, 'node_modules'), { recursive: true });
  writeFileSync(STAMP, wanted);
}

/** Versions of PostgreSQL that are installed, newest first. */
export function postgresVersions(base = '/usr/lib/postgresql') {
  if (!existsSync(base)) return [];
  return readdirSync(base)
    .filter((v) => existsSync(join(base, v, 'bin', 'postgres')))
    .sort((a, b) => Number(b) - Number(a));
}

/** Folder of PostgreSQL's programs: of a version, else of the newest; null when not installed. */
export function postgresBin(version = null, base = '/usr/lib/postgresql') {
  const versions = postgresVersions(base);
  const wanted = version ?? versions[0];
  return wanted !== undefined && versions.includes(wanted) ? join(base, wanted, 'bin') : null;
}

const has = (program) => spawnSync('sh', ['-c', `command -v ${program}`]).status === 0;

const hasModule = (name) => spawnSync('/usr/bin/python3', ['-c', `import ${name}`]).status === 0;

/** Debian packages and how to see that each is there. */
const CHECKS = {
  postgresql: () => postgresBin() !== null,
  ffmpeg: () => has('ffmpeg'),
  fluidsynth: () => has('fluidsynth'),
  'fluid-soundfont-gm': () => existsSync('/usr/share/sounds/sf2/FluidR3_GM.sf2'),
  'musescore-general-soundfont': () => existsSync('/usr/share/sounds/sf3/MuseScore_General_Full.sf3'),
  'timgm6mb-soundfont': () => existsSync('/usr/share/sounds/sf2/TimGM6mb.sf2'),
  'csound-soundfont': () => existsSync('/usr/share/sounds/sf2/sf_GMbank.sf2'),
  'avldrums.lv2-soundfont': () => existsSync('/usr/share/sounds/sf2/Red_Zeppelin_4_LV2.sf2'),
  'espeak-ng': () => has('espeak-ng'),
  flite: () => has('flite'),
  'rubberband-cli': () => has('rubberband'),
  chromium: () => has('chromium'),
  'libxml2-utils': () => has('xmllint'),
  'sndfile-programs': () => has('sndfile-info'),
  mediainfo: () => has('mediainfo'),
  'libimage-exiftool-perl': () => has('exiftool'),
  flac: () => has('metaflac'),
  'python3-mir-eval': () => hasModule('mir_eval'),
  'aubio-tools': () => spawnSync('aubiotrack', ['-h']).error === undefined,
  'python3-mido': () => hasModule('mido'),
  'python3-numpy': () => hasModule('numpy'),
  'python3-soundfile': () => hasModule('soundfile'),
};

/** Installs the named Debian packages that are missing; `optional` ones only lead to a warning. */
export function ensureDebianPackages(names, { optional = false } = {}) {
  const missing = names.filter((name) => !CHECKS[name]());
  if (missing.length === 0) return true;
  const prefix =
    process.getuid() === 0
      ? []
      : has('sudo') && spawnSync('sudo', ['-n', 'true']).status === 0
        ? ['sudo', '-n']
        : null;
  const command = `apt-get install --no-install-recommends ${missing.join(' ')}`;
  if (prefix && has('apt-get')) {
    say(`installing Debian packages: ${missing.join(', ')}`);
    const run = (...args) =>
      spawnSync([...prefix, ...args][0], [...prefix, ...args].slice(1), {
        stdio: ['ignore', 'ignore', 'pipe'],
        env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
      });
    run('apt-get', 'update', '-qq');
    run('apt-get', 'install', '-y', '-qq', '--no-install-recommends', ...missing);
  }
  const still = missing.filter((name) => !CHECKS[name]());
  if (still.length === 0) return true;
  const advice = `missing Debian packages: ${still.join(', ')}. Install them with:  sudo ${command}`;
  if (optional) say(`${advice}  (going on without)`);
  else giveUp(advice);
  return false;
}

/** Runs a program of the packages; ends the process with its status if it fails. */
export function runTool(name, args, options = {}) {
  execFileSync(join(ROOT, 'node_modules', '.bin', name), args, { cwd: ROOT, stdio: 'inherit', ...options });
}
