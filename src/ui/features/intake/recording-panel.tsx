'use client';
import type { RecordingView } from '@/contracts';
import { type Finding, findingDetail, findingTitle } from '@/core/findings';
import { isTrack, remedyEdits, soundTracks, type Track } from '@/core/session';
import { pitchName } from '@/core/time';
import {
  claimingTempo,
  tempoClaimKeys,
  tempoSetAside,
  usePeaks,
  useSession,
  useSessionStore,
} from '@/ui/client';
import { Button, formatDb, formatRate, Labelled, Select, useClock, Waveform } from '@/ui/kit';
import { WhereItPlays } from '@/ui/listening';
import { MidiOffer, NotesPicture, PlacesOffer } from '@/ui/notes';
import { SeverityMark } from './finding-row';

const WIDTH = 268;
const KINDS = {
  title: 'Title',
  artist: 'Artist',
  album: 'Album',
  key: 'Key',
  comment: 'Comment',
  project: 'Project',
  scene: 'Scene',
  take: 'Take',
  originator: 'Made with',
  made: 'Made',
} as const;

/** A MIDI file's row: its notes, and what the file says of tempo and places. */
function NotesPanel({
  recording: r,
  track,
}: {
  readonly recording: RecordingView;
  readonly track: Track | undefined;
}) {
  const unknownColor = useSession((s) => s.view.style.colors.unknown);
  return (
    <>
      <h2 className="fm-mono fm-break">{r.receivedName}</h2>
      {track && r.notes && (
        <NotesPicture
          track={track}
          width={WIDTH}
          height={64}
          fromSeconds={0}
          toSeconds={Math.max(1, r.notes.lastSeconds)}
          color={track.color ?? unknownColor}
        />
      )}
      {r.notes && (
        <p className="fm-faint">
          {r.notes.notes} notes, {pitchName(r.notes.lowestPitch)} to {pitchName(r.notes.highestPitch)}. They
          make no sound here; they are handed over as MIDI.
        </p>
      )}
      <h3>Tempo in the file</h3>
      <MidiOffer recording={r} />
    </>
  );
}

/** One recording: where it plays, what was measured, what stands in the file, and what was found. */
export function RecordingPanel(props: {
  readonly recording: RecordingView;
  readonly findings: readonly Finding[];
}) {
  const session = useSession((s) => s.view.session);
  const track = Object.values(session.nodes).find(
    (n) => n.kind === 'track' && n.recordingId === props.recording.id,
  );
  return props.recording.container === 'midi' ? (
    <NotesPanel recording={props.recording} track={isTrack(track) ? track : undefined} />
  ) : (
    <SoundPanel {...props} track={isTrack(track) ? track : undefined} />
  );
}

function SoundPanel({
  recording: r,
  findings,
  track,
}: {
  readonly recording: RecordingView;
  readonly findings: readonly Finding[];
  readonly track: Track | undefined;
}) {
  const clock = useClock();
  const peaks = usePeaks([r.id], 4096).get(r.id);
  const rate = r.sampleRateHz ?? 48_000;
  const sessionHz = useSession((s) => s.view.session.sampleRateHz);
  const unknownColor = useSession((s) => s.view.style.colors.unknown);
  const seconds = (r.lengthFrames ?? 0) / rate;
  const own = findings.flatMap((f) =>
    f.files.filter((p) => p.id === r.id || p.other === r.id).map((p) => ({ f, p })),
  );
  const facts: [string, string | null][] = r.facts
    ? [
        ['Peak', `${formatDb(r.facts.peakDbfs)} dBFS`],
        ['True peak', r.truePeakDbtp === null ? null : `${formatDb(r.truePeakDbtp)} dBTP`],
        ['Loudness', r.facts.integratedLufs === null ? null : `${formatDb(r.facts.integratedLufs)} LUFS`],
        ['Crest', r.facts.ceiling ? `${r.facts.ceiling.crestDb.toFixed(1)} dB` : null],
        ['First sound', r.facts.firstSoundSeconds === null ? null : clock(r.facts.firstSoundSeconds, 3)],
        ['Last sound', r.facts.lastSoundSeconds === null ? null : clock(r.facts.lastSoundSeconds, 3)],
        ['Lies in', r.inPlace?.path ?? null],
        [
          'Stored as',
          `${(r.container ?? '').toUpperCase()}, ${formatRate(rate)} kHz, ${r.bitDepth} bit${r.encoding?.startsWith('f') ? ' float' : ''}`,
        ],
      ]
    : [];
  const { metadata: m } = r;
  const said: [string, string][] = [
    ...(m.timeReferenceFrames === null
      ? []
      : [['Time stamp', clock(m.timeReferenceFrames / rate, 3)] as [string, string]]),
    ...m.tempoClaims.map((c): [string, string] => [
      'Tempo',
      `${c.bpm} BPM (${c.source})${c.beats !== null && Math.abs((c.beats * 60) / c.bpm - seconds) > 0.05 * seconds ? ', not as long as it says' : ''}`,
    ]),
    ...m.texts.map((t): [string, string] => [KINDS[t.kind], `${t.text} (${t.source})`]),
  ];
  return (
    <>
      <h2 className="fm-mono fm-break">{r.receivedName}</h2>
      {peaks && (
        <Waveform
          peaks={{ ...peaks, sampleRateHz: rate }}
          width={WIDTH}
          height={64}
          fromSeconds={0}
          toSeconds={Math.max(0.1, seconds)}
          color={track?.color ?? unknownColor}
        />
      )}
      {track && <WhereItPlays trackId={track.id} />}
      {own.length > 0 && (
        <>
          <h3>Found</h3>
          <ul className="fm-finding-list">
            {own.map(({ f, p }) => (
              <li key={f.code}>
                <SeverityMark severity={f.severity} /> <b>{findingTitle(f.code)}</b>{' '}
                {findingDetail(f.code, p)}
              </li>
            ))}
          </ul>
        </>
      )}
      <h3>Measured</h3>
      <dl className="fm-facts-list">
        {facts.map(
          ([name, value]) =>
            value !== null && (
              <div key={name}>
                <dt>{name}</dt>
                <dd className="num">{value}</dd>
              </div>
            ),
        )}
      </dl>
      <h3>Stands in the file</h3>
      {said.length + m.markers.length === 0 ? (
        <p className="fm-faint">Nothing.</p>
      ) : (
        <dl className="fm-facts-list">
          {said.map(([name, value], i) => (
            <div key={`${name}${i}`}>
              <dt>{name}</dt>
              <dd>{value}</dd>
            </div>
          ))}
        </dl>
      )}
      {said.length > 0 && <p className="fm-faint fm-below-1">Claims only: nothing of it was applied.</p>}
      <TempoAside recording={r} />
      {track && <ReplaceChoice track={track} />}
      <PlacesOffer
        places={m.markers.map((k) => ({
          seconds: (track?.startFrames ?? 0) / (sessionHz ?? rate) + k.frame / (r.passingHz ?? rate),
          text: k.label,
        }))}
        from={r.receivedName}
      />
    </>
  );
}

/** Putting a recording in the place of another: that track keeps its name, colour, order and routing. */
function ReplaceChoice({ track }: { readonly track: Track }) {
  const store = useSessionStore();
  const session = useSession((s) => s.view.session);
  const others = soundTracks(session).filter((t) => t.id !== track.id);
  if (others.length === 0 || track.tiedTo !== null) return null;
  return (
    <Labelled className="fm-field" id="take-place" label="Take the place of">
      <Select
        value=""
        onChange={(e) => {
          const other = others.find((t) => t.id === e.target.value);
          if (other)
            store
              .getState()
              .commit(
                `${track.name} in the place of ${other.name}`,
                remedyEdits(
                  session,
                  { remedy: 'take-place' },
                  { id: track.recordingId, other: other.recordingId, figures: {}, places: [] },
                ),
              );
        }}
      >
        <option value="">another recording: its track stays as it is</option>
        {others.map((t) => (
          <option key={t.id} value={t.id}>
            {t.name} ({t.receivedName})
          </option>
        ))}
      </Select>
    </Labelled>
  );
}

/** Setting aside what this one file says of the tempo. */
function TempoAside({ recording }: { readonly recording: RecordingView }) {
  const store = useSessionStore();
  const view = useSession((s) => s.view);
  const isAside = tempoSetAside(view).some((r) => r.id === recording.id);
  if (!isAside && !claimingTempo(view).some((r) => r.id === recording.id)) return null;
  return (
    <Button
      tone="bare"
      className="fm-place"
      onClick={() =>
        void store.getState().call(`/api/sessions/${view.id}/findings`, {
          keys: tempoClaimKeys([recording]),
          note: isAside ? null : '',
        })
      }
    >
      {isAside ? 'its tempo is set aside: take it up again' : 'set its tempo aside'}
    </Button>
  );
}
