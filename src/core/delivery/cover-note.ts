import type { ConformedFacts } from '../conform';
import { type ConformMethod, isTrack, type SessionState } from '../session';
import { formatClock } from '../time';
import type { SessionCheck } from './checks';
import { routingOf, type PackagePlan } from './plan';
import { xmlText } from './project-xml';

/** What the note tells beside plan and session. */
export interface CoverNoteFacts {
  /** yyyy-mm-dd. */
  readonly day: string;
  readonly number: number;
  readonly checks: readonly SessionCheck[];
  /** Names of steps done by a person, oldest first. */
  readonly history: readonly string[];
  /** Names of files that came but could not be used, with the reason in words. */
  readonly refused: readonly { readonly name: string; readonly reason: string }[];
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
  const tempo =
    session.map === null
      ? 'No tempo map.'
      : session.mapFacts?.steady && session.mapFacts.bpm !== null
        ? `Steady at ${session.mapFacts.bpm.toFixed(2)} pulses a minute.`
        : 'The tempo moves; the map follows the players pulse by pulse.';
  const doubts = facts.checks
    .filter((c) => c.state !== 'good')
    .map((c) => `<b>${xmlText(c.title)}</b>: ${xmlText(c.detail)}`);
  return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${xmlText(session.name)}: cover note</title>
<style>body{font:15px/1.5 sans-serif;color:#1e2a25;background:#f7f6f1;max-width:60rem;margin:2rem auto;padding:0 1rem}h1{font-size:1.5rem;margin:0}h2{font-size:1.1rem;margin:1.6rem 0 .4rem}table{border-collapse:collapse;width:100%}td,th{border-bottom:1px solid #dad8cc;padding:.25rem .5rem;text-align:left;vertical-align:top}code{font-size:.9em}</style></head>
<body><h1>${xmlText(session.name)}</h1><p>${xmlText(session.artist)} · handover v${facts.number} · ${facts.day}</p>
${session.notes === '' ? '' : `<p>${xmlText(session.notes)}</p>`}
<h2>In short</h2><ul><li>${plan.files.length} files, ${plan.sampleRateHz / 1000} kHz, ${plan.bitDepth}-bit, ${formatClock(plan.lengthFrames / plan.sampleRateHz)} each, all from the same start.</li><li>${tempo}${session.map === null ? '' : ` Bar 1 of the MIDI file is the start of every file; the music's first downbeat is bar ${plan.leadInBars + 1}.`}</li><li>${plan.padFrames < 0 ? `The first ${-plan.padFrames} frames (${(-plan.padFrames / plan.sampleRateHz).toFixed(6)} s) of what came in, before the ${plan.leadInBars === 1 ? 'bar' : `${plan.leadInBars} bars`} that ${plan.leadInBars === 1 ? 'leads' : 'lead'} to the first downbeat, were cut from everything alike.` : `${plan.padFrames} frames (${(plan.padFrames / plan.sampleRateHz).toFixed(6)} s) of silence were put before every file.`} ${facts.conformed ? `The recordings were conformed to ${facts.conformed.bpm} pulses a minute${keptText(facts.conformed, session.map?.meters[0]?.number ?? 1)}; no level was changed.${facts.holdsPlayed ? ' As they were played they lie in <code>as-played</code>, with a tempo map and a click of their own.' : ''}` : `${plan.padFrames < 0 ? 'Nothing else was cut' : 'Nothing was cut'}, no level was changed, no processing was applied.`}</li><li>Levels, pans and mutes are suggestions in tracks.csv and the project file; they are not in the audio.</li></ul>
<h2>What is doubtful</h2>${list(doubts, 'Nothing.')}
<h2>What did not come across</h2>${list(
    facts.refused.map((r) => `<code>${xmlText(r.name)}</code>: ${xmlText(r.reason)}`),
    'Everything received is here.',
  )}
<h2>What was done</h2>${list([...facts.converted.map((c) => `${xmlText(c.name)} was converted from ${c.fromHz / 1000} kHz to ${plan.sampleRateHz / 1000} kHz`), ...facts.repitched.map((r) => `${xmlText(r.name)} keeps its samples and plays ${r.factor.toFixed(4)} times as fast as it was recorded, ${signed(r.semitones)} semitones`), ...(facts.conformed?.methods ?? []).map((m) => `${METHODS[m.method]}: ${m.names.map(xmlText).join(', ')}`), ...facts.history.map(xmlText)], 'Nothing but the common start.')}
<h2>Files</h2><table><thead><tr><th>Name</th><th>File</th><th>Folder</th><th>Bus</th><th></th><th>Received as</th></tr></thead><tbody>
${rows}
</tbody></table></body></html>
`;
}
