'use client';
import { useState } from 'react';
import {
  type Finding,
  findingDetail,
  type FindingFile,
  findingMeans,
  findingTitle,
  remedyLabel,
} from '@/core/findings';
import { remedyEdits } from '@/core/session';
import { dismissalKeys, useSession, useSessionStore } from '@/ui/client';
import { Button, Clock, Kbd, Labelled, Line, TextInput, useShortcuts } from '@/ui/kit';
import { usePlayer } from '@/ui/listening';
import { MicOverlay } from './mic-overlay';
import { RateChoices } from './rate-choices';
import { SeverityMark } from './finding-row';

const PLACES_SHOWN = 6;
/** How much is heard before a place. */
const LEAD_SECONDS = 1;

/** A finding in full: what it means, the figures of each file, what can be done, and putting it aside with a note. */
export function FindingPanel({
  finding,
  aside,
  nameOf,
}: {
  readonly finding: Finding;
  readonly aside: boolean;
  readonly nameOf: (id: string) => string;
}) {
  const store = useSessionStore();
  const player = usePlayer();
  const view = useSession((s) => s.view);
  const [note, setNote] = useState('');
  const commit = (parts: readonly FindingFile[]): void => {
    const edits = parts.flatMap((p) => remedyEdits(view.session, finding, p));
    if (finding.remedy)
      store
        .getState()
        .commit(
          `${remedyLabel(finding.remedy)}: ${parts.length === 1 && parts[0] ? nameOf(parts[0].id) : `${parts.length} files`}`,
          edits,
        );
  };
  const putAside = (text: string | null): void =>
    void store
      .getState()
      .call(`/api/sessions/${view.id}/findings`, { keys: dismissalKeys(view, finding), note: text });
  const hear = (recordingId: string, seconds: number, other: string | null): void => {
    const tracks = Object.values(view.session.nodes).filter(
      (n) => n.kind === 'track' && (n.recordingId === recordingId || n.recordingId === other),
    );
    player.setSolo(new Set(tracks.map((t) => t.id)));
    player.seek(Math.max(0, seconds - LEAD_SECONDS));
    void player.play();
  };
  const remedy = !aside && finding.remedy !== null;
  useShortcuts([
    ...(remedy ? [{ key: '1', run: () => commit(finding.files) }] : []),
    { key: '2', run: () => putAside(aside ? null : note) },
  ]);
  return (
    <>
      <h2>{findingTitle(finding.code)}</h2>
      <p className="fm-below-1">
        <SeverityMark severity={finding.severity} />
      </p>
      <p>{findingMeans(finding.code)}</p>
      <ul className="fm-finding-list">
        {finding.files.map((p) => (
          <li key={`${p.id} ${p.other}`}>
            <Line align="baseline">
              <span className="fm-mono fm-break fm-grow">{nameOf(p.id)}</span>
              {remedy && finding.files.length > 1 && finding.remedy && (
                <Button
                  tone="bare"
                  className="fm-place"
                  onClick={() => commit([p])}
                  aria-label={`${remedyLabel(finding.remedy)}: ${nameOf(p.id)}`}
                >
                  only this
                </Button>
              )}
            </Line>
            {p.other !== null && (
              <div className="fm-faint">
                beside <span className="fm-mono fm-break">{nameOf(p.other)}</span>
              </div>
            )}
            <Line wraps>
              <span>{findingDetail(finding.code, p)}</span>
              {p.places.slice(0, PLACES_SHOWN).map((place) => (
                <Button
                  key={place.seconds}
                  tone="bare"
                  className="fm-place"
                  title="Hear it from a second before"
                  onClick={() => hear(p.id, place.seconds, p.other)}
                >
                  <Clock seconds={place.seconds} decimals={1} />
                </Button>
              ))}
              {p.places.length > PLACES_SHOWN && (
                <span className="fm-faint">and {p.places.length - PLACES_SHOWN} more</span>
              )}
            </Line>
            {finding.code.startsWith('mic-') && p.other !== null && (
              <MicOverlay leaderId={p.other} otherId={p.id} figures={p.figures} nameOf={nameOf} />
            )}
          </li>
        ))}
      </ul>
      {finding.code === 'rate-differs' && <RateChoices />}
      {remedy && finding.remedy && (
        <>
          <Button tone="main" className="fm-wide fm-centred" onClick={() => commit(finding.files)}>
            <Kbd>1</Kbd> {remedyLabel(finding.remedy)}
            {finding.files.length > 1 ? ` (${finding.files.length})` : ''}
          </Button>
          <p className="fm-faint fm-above-1">No file is touched; one undo takes it back.</p>
        </>
      )}
      {aside ? (
        <>
          <p className="fm-faint">
            Put aside
            {view.dismissals.find((d) => d.key === dismissalKeys(view, finding)[0])?.note
              ? `: ${view.dismissals.find((d) => d.key === dismissalKeys(view, finding)[0])?.note}`
              : '.'}
          </p>
          <Button onClick={() => putAside(null)}>
            <Kbd>2</Kbd> Take up again
          </Button>
        </>
      ) : (
        <Labelled id="aside-note" className="fm-above-3" label="Put aside, because">
          <Line align="start">
            <TextInput
              value={note}
              maxLength={400}
              placeholder="as intended"
              onChange={(e) => setNote(e.target.value)}
            />
            <Button onClick={() => putAside(note)}>
              <Kbd>2</Kbd> Put aside
            </Button>
          </Line>
          <p className="fm-faint fm-tight">It comes back when the file changes.</p>
        </Labelled>
      )}
    </>
  );
}
