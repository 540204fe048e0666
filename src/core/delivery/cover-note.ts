import type { ConformedFacts } from '../conform';
import { type ConformMethod, isTrack, type Lane, lanesOf, type SessionState } from '../session';
import { formatClock, type Meter, pulseName } from '../time';
import type { SessionCheck } from './checks';
import { type Overs, routingOf, type PackagePlan } from './plan';
import { xmlText } from './project-xml';
import type { PlannedTake } from './takes';
import { many, named, type RecordingFrames, soundChanges, whatWasDone } from './what-was-done';

/** Where the note lies in a package. */
export const COVER_NOTE_PATH = 'data/session/cover-note.html';

/** What the note tells beside plan and session. */
export interface CoverNoteFacts {
  /** yyyy-mm-dd. */
  readonly day: string;
  readonly number: number;
  readonly checks: readonly SessionCheck[];
  /** The session as it was received, before anybody touched it. */
  readonly received: SessionState;
  /** The session as it was worked on: before it was conformed, if it was. */
  readonly worked: SessionState;
  readonly recordingFrames: RecordingFrames;
  /** Names of files that came and are not in the package, with the reason in words. */
  readonly absent: readonly { readonly name: string; readonly reason: string }[];
  /** Names of tracks made of two mono recordings. */
  readonly joined: readonly string[];
  /** Names of tracks converted to the session rate, with their own rate, Hz. */
  readonly converted: readonly { readonly name: string; readonly fromHz: number }[];
  /** Tracks whose samples were kept at another rate than they were recorded at. */
  readonly repitched: readonly {
    readonly name: string;
    readonly factor: number;
    readonly semitones: number;
  }[];
  /** Null when the recordings are as played. */
  readonly conformed: ConformedFacts | null;
  /** The recordings as played lie in the package as well. */
  readonly holdsPlayed: boolean;
  readonly overs: Overs;
  /** Takes that lie beside the tracks put together from them. */
  readonly takes: readonly PlannedTake[];
}

const METHODS: Readonly<Record<ConformMethod, string>> = {
  slices: 'cut before every hit and moved, nothing stretched',
  held: 'stretched, pitch held',
  none: 'moved, not stretched',
  still: 'left where it was',
};

/** `first` = what the first bar is called. */
const keptText = ({ keep }: ConformedFacts, first: number): string =>
  keep.length === 0
    ? ''
    : `, except ${keep.map((k) => (k.fromBar === k.toBar ? `bar ${k.fromBar + first - 1}` : `bars ${k.fromBar + first - 1}–${k.toBar + first - 1}`)).join(', ')}, which keep${keep.length === 1 && keep[0]?.fromBar === keep[0]?.toBar ? 's its' : ' their'} time`;

const signed = (x: number): string => `${x < 0 ? '−' : '+'}${Math.abs(x).toFixed(2)}`;

/** The page in the package that people read: what was done, what is doubtful, what is where. Plain HTML, nothing loaded from elsewhere. */
export function coverNote(plan: PackagePlan, session: SessionState, facts: CoverNoteFacts): string {
  const list = (items: readonly string[], none: string): string =>
    items.length === 0 ? `<p>${none}</p>` : `<ul>${items.map((i) => `<li>${i}</li>`).join('')}</ul>`;
  const rows = plan.files
    .map((f) => {
      const track = f.trackId === null ? undefined : session.nodes[f.trackId];
      const routing = f.trackId === null ? { folder: '', bus: '' } : routingOf(session, f.trackId);
      return `<tr><td>${xmlText(f.name)}</td><td><code>${xmlText(f.path.replace(/^data\//, ''))}</code></td><td>${xmlText(routing.folder)}</td><td>${xmlText(routing.bus)}</td><td>${f.channels === 1 ? 'mono' : 'stereo'}</td><td>${isTrack(track) ? `<code>${xmlText(track.receivedName)}</code>` : 'made here'}</td></tr>`;
    })
    .concat(
      plan.notes.map((f) => {
        const { folder, bus } = routingOf(session, f.trackId);
        const track = session.nodes[f.trackId];
        return `<tr><td>${xmlText(f.name)}</td><td><code>${xmlText(f.path.replace(/^data\//, ''))}</code></td><td>${xmlText(folder)}</td><td>${xmlText(bus)}</td><td>notes</td><td>${isTrack(track) ? `<code>${xmlText(track.receivedName)}</code>` : ''}</td></tr>`;
      }),
    )
    .join('\n');
  const lines = (states: readonly SessionCheck['state'][]): string[] =>
    facts.checks
      .filter((c) => states.includes(c.state))
      .map((c) => `<b>${xmlText(c.title)}</b>: ${xmlText(c.detail)}`);
  const known = lines(['note']);
  return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${xmlText(session.name)}: cover note</title>
<style>body{font:15px/1.5 sans-serif;color:#1e2a25;background:#f7f6f1;max-width:60rem;margin:2rem auto;padding:0 1rem}h1{font-size:1.5rem;margin:0}h2{font-size:1.1rem;margin:1.6rem 0 .4rem}table{border-collapse:collapse;width:100%}td,th{border-bottom:1px solid #dad8cc;padding:.25rem .5rem;text-align:left;vertical-align:top}code{font-size:.9em}</style></head>
<body><h1>${xmlText(session.name)}</h1><p>${xmlText([session.artist, session.key].filter(Boolean).join(' · '))} · handover v${facts.number} · ${facts.day}</p>
${session.notes === '' ? '' : `<p>${xmlText(session.notes)}</p>`}
<h2>In short</h2><ul>${inShort(plan, session, facts)
    .map((line) => `<li>${line}</li>`)
    .join('')}</ul>
<h2>What is doubtful</h2>${list(lines(['look', 'stop']), 'Nothing.')}
${known.length === 0 ? '' : `<h2>Good to know</h2>${list(known, '')}`}
<h2>What did not come across</h2>${list(
    facts.absent.map((r) => `<code>${xmlText(r.name)}</code>: ${xmlText(r.reason)}`),
    'Everything received is here.',
  )}
<h2>What was done</h2>${list(doneLines(plan, facts).map(xmlText), 'Nothing but the common start.')}
<h2>Files</h2><table><thead><tr><th>Name</th><th>File</th><th>Folder</th><th>Bus</th><th></th><th>Received as</th></tr></thead><tbody>
${rows}
</tbody></table>
${takesTable(facts)}</body></html>
`;
}

/** What was thought of a take, and what of its file is not as it came. */
const saidOfTake = ({ startFrames }: PlannedTake, lane: Lane, isOver: boolean): string =>
  [
    lane.takeRating ?? '',
    lane.takeNote,
    lane.inverted ? 'polarity turned over' : '',
    lane.monoFrom ? `its ${lane.monoFrom} side` : '',
    startFrames < 0 ? `its first ${-startFrames} frames lie before the start` : '',
    isOver ? '32-bit float, as samples lie above full scale' : '',
  ]
    .filter(Boolean)
    .join('; ');

/** The takes with what was thought of them, as HTML; nothing without any. */
function takesTable({ takes, worked, overs }: CoverNoteFacts): string {
  if (takes.length === 0) return '';
  const rows = takes.map((take) => {
    const track = worked.nodes[take.trackId];
    const lane = isTrack(track) ? lanesOf(track).find((l) => l.id === take.laneId) : undefined;
    const said = lane ? saidOfTake(take, lane, overs[take.path] !== undefined) : '';
    return `<tr><td>${xmlText(take.name)}, ${xmlText(lane?.takeName ?? `take ${take.takeNumber}`)}</td><td><code>${xmlText(take.path.replace(/^data\//, ''))}</code></td><td>${xmlText(said)}</td><td><code>${xmlText(lane?.receivedName ?? '')}</code></td></tr>`;
  });
  return `<h2>Takes</h2><p>${many(takes.length, 'take', 'takes')} from end to end, beside what was put together from them; all from the same start.</p><table><thead><tr><th>Take</th><th>File</th><th>Said of it</th><th>Received as</th></tr></thead><tbody>
${rows.join('\n')}
</tbody></table>`;
}

/** Head lines, as HTML. */
function inShort(plan: PackagePlan, session: SessionState, facts: CoverNoteFacts): string[] {
  const over = plan.files.filter((f) => facts.overs[f.path] !== undefined);
  const depth = `${plan.bitDepth}-bit${over.length === 0 ? '' : `, ${over.length} of them 32-bit float`}`;
  return [
    `${many(plan.files.length, 'file', 'files')}, ${plan.sampleRateHz / 1000} kHz, ${depth}, ${formatClock(plan.lengthFrames / plan.sampleRateHz)} each, all from the same start.`,
    ...(over.length === 0
      ? []
      : [
          `Samples lie above full scale in ${xmlText(named(over.map((f) => f.name)))}: these files are floating point, so that nothing is cut off.`,
        ]),
    `${tempoLine(plan, session, facts)}${session.map === null ? '' : ` ${barsLine(plan)}`}`,
    `${startLine(plan)} ${soundLine(plan, session, facts)}`,
    'Levels, pans and mutes are suggestions in tracks.csv and the project file; they are not in the audio.',
  ];
}

/** Where bars begin and what they are called. */
function barsLine({ leadInBars, firstBarNumber }: PackagePlan): string {
  const there = leadInBars + 1;
  return firstBarNumber === there
    ? `The start of every file is bar 1; the first downbeat of the music is bar ${there}, here and in the MIDI file.`
    : `The first downbeat of the music is called bar ${firstBarNumber}, as it was set; in a program that counts from the start of the files it is bar ${there}.`;
}

/** How fast it is: one figure, or from where to where its bars go. */
function tempoLine(plan: PackagePlan, session: SessionState, facts: CoverNoteFacts): string {
  if (session.map === null) return 'No tempo map.';
  const isDoubtful = facts.checks.some((c) => c.code === 'tempo' && c.state === 'look');
  const aside = isDoubtful ? ' It is doubtful in places, see below.' : '';
  const counts = pulseName(session.map.meters[0] as Meter);
  // A plain figure is read as quarters.
  const unit = counts === 'quarters' ? 'BPM' : `BPM (${counts})`;
  if (session.mapFacts?.steady && session.mapFacts.bpm !== null)
    return `One tempo: ${session.mapFacts.bpm.toFixed(2)} ${unit}.${aside}`;
  const bars = barTempi(plan);
  if (bars.length === 0) return `A tempo map.${aside}`;
  const sorted = [...bars].sort((a, b) => a - b);
  const middle = sorted[Math.floor(sorted.length / 2)] as number;
  return `The tempo moves, bar by bar between ${(sorted[0] as number).toFixed(1)} and ${(sorted.at(-1) as number).toFixed(1)} ${unit}, ${middle.toFixed(1)} in the middle.${aside}`;
}

/** Pulses a minute of each whole bar of the music. */
function barTempi(plan: PackagePlan): number[] {
  const tempi: number[] = [];
  let begin: { readonly seconds: number; readonly index: number } | null = null;
  plan.beats.forEach((beat, index) => {
    if (!beat.accent || beat.quarters < plan.leadInQuarters) return;
    if (begin) tempi.push((60 * (index - begin.index)) / (beat.seconds - begin.seconds));
    begin = { seconds: beat.seconds, index };
  });
  return tempi;
}

function startLine(plan: PackagePlan): string {
  const seconds = (frames: number): string => `${(frames / plan.sampleRateHz).toFixed(6)} s`;
  if (plan.padFrames === 0)
    return 'Every file begins at the common zero; no silence was put before all of them.';
  if (plan.padFrames > 0)
    return `${plan.padFrames} frames (${seconds(plan.padFrames)}) of silence were put before every file.`;
  const one = plan.leadInBars === 1;
  return `The first ${-plan.padFrames} frames (${seconds(-plan.padFrames)}) of what came in, before the ${one ? 'bar' : `${plan.leadInBars} bars`} that ${one ? 'leads' : 'lead'} to the first downbeat, were cut from everything alike.`;
}

/** Whether a piece fades or has a level of its own. */
const isLevelChanged = ({ files }: PackagePlan): boolean =>
  files.some((f) =>
    f.pieces.some((p) => Math.abs(p.gain) !== 1 || p.fadeIn.frames > 0 || p.fadeOut.frames > 0),
  );

const capitalized = (text: string): string => `${text.slice(0, 1).toUpperCase()}${text.slice(1)}`;

/** What was done to the sound. */
function soundLine(plan: PackagePlan, session: SessionState, facts: CoverNoteFacts): string {
  const changes = soundChanges(session, {
    converted: facts.converted.length,
    repitched: facts.repitched.length,
    joined: facts.joined.length,
  });
  const played =
    facts.conformed && facts.holdsPlayed
      ? ' As they were played they lie in <code>as-played</code>, with a tempo map and a click of their own.'
      : '';
  const isCut = plan.files.some((f) => !f.isUncut);
  const level = isLevelChanged(plan) ? [] : ['no level was changed'];
  const untouched = [
    ...(isCut ? [] : [plan.padFrames < 0 ? 'nothing else was cut' : 'nothing was cut']),
    ...level,
    ...(changes.length === 0 ? ['no processing was applied'] : []),
  ];
  const first = facts.conformed
    ? `${[`The recordings were conformed to ${facts.conformed.bpm} BPM${keptText(facts.conformed, plan.firstBarNumber)}`, ...level].join('; ')}.`
    : untouched.length === 0
      ? ''
      : `${capitalized(untouched.join(', '))}.`;
  return `${first}${played}${changes.length === 0 ? '' : ` Of the sound itself this is not as it came: ${xmlText(changes.join('; '))}.`}`;
}

/** What was done, in words: of the files, then of the session. */
function doneLines(plan: PackagePlan, facts: CoverNoteFacts): string[] {
  return [
    ...facts.converted.map(
      (c) => `${c.name} was converted from ${c.fromHz / 1000} kHz to ${plan.sampleRateHz / 1000} kHz`,
    ),
    ...facts.repitched.map(
      (r) =>
        `${r.name} keeps its samples and plays ${r.factor.toFixed(4)} times as fast as it was recorded, ${signed(r.semitones)} semitones`,
    ),
    ...(facts.joined.length === 0 ? [] : [`Joined of two mono recordings: ${named(facts.joined)}`]),
    ...(facts.conformed?.methods ?? []).map((m) => `${METHODS[m.method]}: ${m.names.join(', ')}`),
    ...whatWasDone(facts.received, facts.worked, facts.recordingFrames),
  ];
}
