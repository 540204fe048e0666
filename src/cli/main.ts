import { commandBalance } from './balance';
import { commandConform } from './conform';
import { commandInspect } from './inspect';
import { commandNames } from './names';
import { commandPackage } from './package';
import { commandSections } from './sections';
import { commandTempo } from './tempo';
import { commandVerify } from './verify';
import { commandTakes } from './takes';
import { commandTidy } from './tidy';
import { CallFault, readArguments } from './arguments';

const USAGE = `fernmoss names [--json] [FILE]              read names, one a line; a blank line ends a delivery
fernmoss inspect FILE… [--session]          facts and findings of recordings
fernmoss tempo FILE…|FOLDER [--timekeeper FILE]… [--map-out FILE] [--midi-out FILE]
fernmoss conform FILE…|FOLDER --from MAP|auto --to BPM|MAP --out FOLDER
fernmoss tidy FILE…|FOLDER [--threshold DB] [--shortest SECONDS] [--before SECONDS] [--after SECONDS] [--out FOLDER]
fernmoss balance FOLDER [--mix FILE]         levels and pans for a first listen, and those of the sender’s rough mix
fernmoss takes FOLDER                        what would become lanes of one track, what sounds together, what has to be asked
fernmoss sections FILE…|FOLDER [--map MAP]    intro, verse, chorus …: on bar lines, which are alike, how sure
fernmoss package FOLDER --out FOLDER|FILE.zip   names, order, tempo map, click, package, in one go
fernmoss verify PACKAGE [--received FOLDER]  every check of a package, folder or ZIP; its samples against what was received
All take --json and --style FILE. Exit 0 done, 1 problems found, 2 wrong call.`;

const COMMANDS: Readonly<Record<string, (args: ReturnType<typeof readArguments>) => Promise<number>>> = {
  names: commandNames,
  inspect: commandInspect,
  tempo: commandTempo,
  conform: commandConform,
  tidy: commandTidy,
  balance: commandBalance,
  sections: commandSections,
  takes: commandTakes,
  package: commandPackage,
  verify: commandVerify,
};

/** Entry of the command line; see docs/cli.md. */
async function main(): Promise<number> {
  const [name, ...rest] = process.argv.slice(2);
  if (name === '--help' || name === 'help' || rest.includes('--help')) {
    process.stdout.write(`${USAGE}\n`);
    return 0;
  }
  const command = name !== undefined && Object.hasOwn(COMMANDS, name) ? COMMANDS[name] : undefined;
  if (!command) {
    process.stderr.write(`${USAGE}\n`);
    return 2;
  }
  return command(readArguments(rest));
}

main().then(
  (status) => {
    process.exitCode = status;
  },
  (cause: unknown) => {
    process.stderr.write(
      `${cause instanceof CallFault ? cause.message : cause instanceof Error ? (cause.stack ?? cause.message) : String(cause)}\n`,
    );
    process.exitCode = cause instanceof CallFault ? 2 : 1;
  },
);
