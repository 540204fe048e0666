import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { faultText } from '@/contracts';
import { packedName } from '@/core/session';
import { tryNames } from '@/core/style';
import { takeQuestionText, takeReasonText, type TakesOfDelivery, togetherReasonText } from '@/core/takes';
import { roundTo } from '@/core/units';
import { runTask, type TakesInputFile } from '@/engine';
import { type Arguments, CallFault, print } from './arguments';
import { atOneRate, atStart, type KnownSound, knownSounds, mixAmong } from './known-sounds';
import { type InspectedSound, soundFiles, threadPath, withSounds } from './sound-files';

/** `takes`: which files would become lanes of one track, which look alike but sound together, and what has to be asked. */
export async function commandTakes(args: Arguments): Promise<number> {
  const [folder] = args.words;
  if (folder === undefined || args.words.length > 1) throw new CallFault('takes needs one folder');
  const converted = await mkdtemp(join(tmpdir(), 'fernmoss-takes-'));
  try {
    return await withSounds(
      soundFiles([folder]),
      { truePeak: false, listen: true, split: true },
      async (sounds) => {
        const answer = await takes(sounds, converted, args);
        print(args.json, answer, tableOf(answer));
        const last = answer.at(-1) as Last;
        return last.questions.length > 0 || last.refused.length > 0 ? 1 : 0;
      },
    );
  } finally {
    await rm(converted, { recursive: true, force: true });
  }
}

const sourceOf = ({ reading }: KnownSound): TakesInputFile['source'] => ({
  role: reading?.role ?? null,
  position: reading?.position ?? null,
  side: reading?.side ?? null,
  number: reading?.number ?? null,
  take: reading?.take ?? null,
});

interface Track {
  readonly track: string;
  readonly lanes: readonly { readonly file: string; readonly number: number; readonly confidence: number }[];
  readonly wanted: string | null;
  readonly reason: string;
}

interface Last {
  readonly notTakes: readonly { readonly files: readonly string[]; readonly reason: string }[];
  readonly questions: readonly { readonly files: readonly string[]; readonly question: string }[];
  readonly mix: string | null;
  readonly refused: readonly { readonly file: string; readonly reason: string }[];
}

async function takes(
  sounds: readonly InspectedSound[],
  folder: string,
  { style }: Arguments,
): Promise<(Track | Last)[]> {
  const known = knownSounds(await atOneRate(sounds, folder));
  const mix = known[(await mixAmong(known)) ?? -1] ?? null;
  const files = known.filter((k) => k !== mix);
  const found = await runTask(
    'takes',
    {
      files: files.map((k, i) => ({
        name: basename(k.file),
        family: k.kind.family,
        part: k.kind.part,
        isSilent: k.reading?.isSilent ?? true,
        source: sourceOf(k),
        sketch: k.value.listening?.sketch ?? null,
        path: k.path,
        startFrames: startsOf(files)[i] ?? 0,
      })),
      mix: mix && atStart(mix),
    },
    { threadPath: threadPath() },
  );
  const names = tryNames(
    files.map((k) => basename(k.file)),
    style,
  );
  const fileOf = (k: number): string => files[k]?.file ?? '';
  return [
    ...found.takes.map((t): Track => ({
      track: packedName(t.lanes.map((l) => names[l.file]?.name ?? '')),
      lanes: t.lanes.map((l) => ({ ...l, file: fileOf(l.file), confidence: roundTo(l.confidence, 2) })),
      wanted: t.wanted === null ? null : fileOf(t.wanted),
      reason: takeReasonText(t.reason),
    })),
    lastOf(found, { fileOf, mix, sounds }),
  ];
}

function lastOf(
  found: TakesOfDelivery,
  {
    fileOf,
    mix,
    sounds,
  }: {
    readonly fileOf: (k: number) => string;
    readonly mix: KnownSound | null;
    readonly sounds: readonly InspectedSound[];
  },
): Last {
  return {
    notTakes: found.together.map(({ files, reason }) => ({
      files: files.map(fileOf),
      reason: togetherReasonText(reason),
    })),
    questions: found.questions.map(({ files, question }) => ({
      files: files.map(fileOf),
      question: takeQuestionText(question, files.length),
    })),
    mix: mix?.file ?? null,
    refused: sounds.flatMap(({ file, outcome }) =>
      outcome.ok ? [] : [{ file, reason: faultText(outcome.error) }],
    ),
  };
}

/** Where files begin by their time stamps, frames at the common rate: behind the earliest, where stamps lie within one song; else all together. */
function startsOf(files: readonly KnownSound[]): number[] {
  const stamps = files.map(({ value }) => {
    const stamp = value.metadata.timeReferenceFrames;
    return stamp === null ? null : stamp / value.header.sampleRateHz;
  });
  const told = stamps.filter((s): s is number => s !== null);
  const first = Math.min(...told);
  const longest = Math.max(
    ...files.map(({ value }) => value.header.lengthFrames / value.header.sampleRateHz),
  );
  if (told.length < 2 || Math.max(...told) - first > LONGEST_SONG * Math.max(1, longest))
    return files.map(() => 0);
  const rate = files[0]?.value.header.sampleRateHz ?? 48_000;
  return stamps.map((s) => (s === null ? 0 : Math.round((s - first) * rate)));
}

/** Stamps farther apart than so many times the longest file are times of day. */
const LONGEST_SONG = 4;

function tableOf(answer: readonly (Track | Last)[]): (readonly unknown[])[] {
  return answer.flatMap((entry): (readonly unknown[])[] =>
    'track' in entry
      ? [
          [entry.track, entry.reason],
          ...entry.lanes.map((l) => [
            `  ${l.number}`,
            basename(l.file),
            l.confidence.toFixed(2),
            l.file === entry.wanted ? 'wanted' : '',
          ]),
        ]
      : [
          ...entry.notTakes.map((n) => ['together', n.files.map((f) => basename(f)).join(', '), n.reason]),
          ...entry.questions.map((q) => ['question', q.files.map((f) => basename(f)).join(', '), q.question]),
          ...entry.refused.map((r) => ['refused', basename(r.file), r.reason]),
        ],
  );
}
