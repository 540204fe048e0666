import { existsSync, statSync } from 'node:fs';
import { mkdtemp, readdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join, relative, resolve } from 'node:path';
import {
  compareWithReceived,
  NotAPackage,
  type ReceivedComparison,
  unzipPackage,
  verifyPackage,
} from '@/engine';
import { type Arguments, CallFault, print } from './arguments';
import { soundFiles, withSounds } from './sound-files';

/** What a package alone cannot tell. */
const NOT_CHECKED =
  'whether its samples are those that were received: the recordings are not at hand (--received FOLDER)';

/** `verify`: every check of a package, with pass or fail and its figure; with `--received`, its samples against what was received. */
export async function commandVerify(args: Arguments): Promise<number> {
  const [path, more] = args.words;
  if (path === undefined || more !== undefined)
    throw new CallFault('verify needs one package, a folder or a ZIP');
  if (!existsSync(path)) throw new CallFault(`cannot find ${path}`);
  const received = args.one('received');
  const work = await mkdtemp(join(tmpdir(), 'fernmoss-verify-'));
  try {
    const root = statSync(path).isDirectory() ? await rootOf(resolve(path)) : await unzipPackage(path, work);
    const compared = received === null ? null : await againstReceived(root, received);
    const checks = [...(await verifyPackage(root)), ...(compared?.checks ?? [])];
    const notChecked = compared?.notCompared ?? [NOT_CHECKED];
    const notInPackage = compared?.notInPackage ?? null;
    print(
      args.json,
      { package: resolve(path), pass: checks.every((c) => c.pass), checks, notChecked, notInPackage },
      [
        ...checks.map((c) => [c.pass ? 'holds' : 'FAILS', c.code, c.title, c.figure]),
        ...notChecked.map((what) => ['not checked', what]),
        ...(notInPackage ?? []).map((name) => ['received, not in it', name]),
      ],
    );
    return checks.every((c) => c.pass) ? 0 : 1;
  } catch (cause) {
    if (!(cause instanceof NotAPackage)) throw cause;
    print(
      args.json,
      {
        package: resolve(path),
        pass: false,
        checks: [{ code: 'complete', pass: false, title: 'It is a package', figure: cause.message }],
      },
      [['FAILS', cause.message]],
    );
    return 1;
  } finally {
    await rm(work, { recursive: true, force: true });
  }
}

/** The package against the recordings of a folder. */
const againstReceived = (root: string, folder: string): Promise<ReceivedComparison> =>
  withSounds(soundFiles([folder]), { truePeak: false, listen: false, split: true }, (sounds) =>
    compareWithReceived(
      root,
      sounds.flatMap(({ of, path, outcome }) =>
        outcome.ok ? [{ name: relative(folder, of.file), channel: of.channel, path }] : [],
      ),
    ),
  );

/** The folder itself, or the one package folder in it. */
async function rootOf(folder: string): Promise<string> {
  if (existsSync(join(folder, 'bagit.txt'))) return folder;
  const inside = (await readdir(folder)).filter((name) => existsSync(join(folder, name, 'bagit.txt')));
  return inside.length === 1 ? join(folder, inside[0] as string) : folder;
}
