import { basename } from 'node:path';
import { faultText } from '@/contracts';
import { readNames } from '@/core/naming';
import { findSections, playedTracks, type SectionTrack, songLines, toldSections } from '@/core/sections';
import { kindKnown } from '@/core/style';
import type { SongMap } from '@/core/time';
import { type Arguments, print } from './arguments';
import { detectedMap, readMap } from './maps';
import { type InspectedSound, soundFiles, withSounds } from './sound-files';

/** `sections`: the song's parts, on the bar lines of a map that is given or found. */
export async function commandSections(args: Arguments): Promise<number> {
  const given = args.one('map');
  const map = given === null ? null : await readMap(given);
  return withSounds(soundFiles(args.words), { truePeak: false, listen: true, split: false }, (sounds) => {
    for (const { file, outcome } of sounds)
      if (!outcome.ok) process.stderr.write(`left out: ${file}: ${faultText(outcome.error)}\n`);
    const rows = sectionsOf(sounds, map ?? detectedMap(sounds));
    print(args.json, rows, [
      ['name', 'kind', 'like', 'from s', 'to s', 'from bar', 'to bar', 'how sure'],
      ...rows.map((r) => [
        r.name,
        r.kind,
        r.like,
        r.fromSeconds,
        r.toSeconds,
        r.fromBar ?? '',
        r.toBar ?? '',
        r.confidence,
      ]),
    ]);
    return Promise.resolve(rows.length > 0 ? 0 : 1);
  });
}

/** Sections as they are printed; `toBar` is the bar at whose line one ends. */
function sectionsOf(sounds: readonly InspectedSound[], map: SongMap | null) {
  const lines = songLines(map, Math.max(0, ...sounds.map(secondsOf)));
  if (map === null) process.stderr.write('no tempo was found: sections are told in time\n');
  const bar = (inner: number | null): number | null =>
    map === null || inner === null ? null : map.meters.numberOf(inner);
  return toldSections(findSections(sectionTracks(sounds), lines.seconds), lines).map((s) => ({
    ...s,
    fromBar: bar(s.fromBar),
    toBar: bar(s.toBar),
  }));
}

const secondsOf = ({ outcome }: InspectedSound): number =>
  outcome.ok ? outcome.value.header.lengthFrames / outcome.value.header.sampleRateHz : 0;

/** What the recordings are by their names and their sound. */
function sectionTracks(sounds: readonly InspectedSound[]): SectionTrack[] {
  const names = readNames(sounds.map((s) => basename(s.file)));
  const all = sounds.flatMap(({ outcome }, i): SectionTrack[] => {
    const listening = outcome.ok ? outcome.value.listening : null;
    if (!listening) return [];
    const { family, part } = kindKnown(null, names[i] ?? null, listening.heard);
    return [
      { family, part, pieces: [{ sketch: listening.sketch, chroma: listening.onsets.chroma, atSeconds: 0 }] },
    ];
  });
  return [...playedTracks(all)];
}
