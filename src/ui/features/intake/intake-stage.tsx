'use client';
import { type DragEvent, useRef, useState } from 'react';
import type { SessionView } from '@/contracts';
import { askMissing, questionsToSender } from '@/core/findings';
import { isTrack } from '@/core/session';
import { findingsOf, startUploads, useSession } from '@/ui/client';
import { Empty, Icon } from '@/ui/kit';
import { AddRecordings } from './add-recordings';
import { filesOfDrop } from './files-of-drop';
import { FindingPanel } from './finding-panel';
import { FindingRow } from './finding-row';
import { InPlaceDialog } from './in-place-dialog';
import { InPlaceStrip } from './in-place-strip';
import { IntakeHead } from './intake-head';
import { IntakeHelp } from './intake-help';
import { NeedlessStrip } from './needless-strip';
import { OtherFiles } from './other-files';
import { QuestionsDialog } from './questions-dialog';
import { RecordingPanel } from './recording-panel';
import { RecordingsTable } from './recordings-table';
import { SongsDialog } from './songs-dialog';
import { songsOf } from './songs-of';
import { UploadsStrip, useOpenUploads } from './uploads-strip';
import { type IntakeInHand, useIntakeChoice } from './use-intake-choice';

const lastPart = (name: string): string => name.split('/').at(-1) ?? name;
/** What systems leave in folders. */
const HIDDEN_FILE = /(^|\/)(\.|thumbs\.db$|desktop\.ini$)/i;

/** Taking recordings in: choose or drop, progress per file, what each turned out to be. */
export function IntakeStage() {
  const view = useSession((s) => s.view);
  const uploads = useOpenUploads(view.id);
  const [over, setOver] = useState(false);
  const [showsAside, setShowsAside] = useState(false);
  const [asking, setAsking] = useState(false);
  const [browsing, setBrowsing] = useState(false);
  const { songs, skipped, importFiles, letGo } = useImport(view.id);
  const inHand = useIntakeChoice(showsAside);
  const drop = (event: DragEvent): void => {
    event.preventDefault();
    setOver(false);
    void filesOfDrop(event.dataTransfer).then(importFiles);
  };
  const { open } = findingsOf(view);
  const nameOf = (id: string): string =>
    lastPart(view.recordings.find((r) => r.id === id)?.receivedName ?? '');
  return (
    <section
      className={`fm-split fm-intake ${over ? 'is-over' : ''}`}
      aria-label="Intake"
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={(e) => {
        if (e.currentTarget === e.target) setOver(false);
      }}
      onDrop={drop}
    >
      <div className="fm-pane">
        <IntakeHead showsAside={showsAside} onShowAside={setShowsAside} onAsk={() => setAsking(true)}>
          <AddRecordings onFiles={importFiles} onInPlace={() => setBrowsing(true)} />
        </IntakeHead>
        <UploadsStrip items={uploads} />
        <InPlaceStrip />
        <NeedlessStrip open={open} nameOf={nameOf} />
        {skipped > 0 && (
          <p className="fm-faint fm-sides-3 fm-below-1">
            {skipped} hidden system {skipped === 1 ? 'file was' : 'files were'} left out.
          </p>
        )}
        {view.recordings.length === 0 && uploads.length === 0 ? (
          <NoRecordings />
        ) : (
          <Lists inHand={inHand} nameOf={nameOf} />
        )}
      </div>
      <aside className="fm-panel" aria-label="Details">
        <Details inHand={inHand} nameOf={nameOf} />
      </aside>
      {songs && (
        <SongsDialog
          found={songs.found}
          onHide={letGo}
          onTogether={() => {
            startUploads(view.id, songs.all);
            letGo();
          }}
        />
      )}
      {browsing && <InPlaceDialog sessionId={view.id} onHide={() => setBrowsing(false)} />}
      {asking && (
        <QuestionsDialog
          draft={questionsToSender(open, nameOf, view.session.name, missingQuestions(view))}
          onHide={() => setAsking(false)}
        />
      )}
    </section>
  );
}

/** From here on it is asked whether something of the mix is missing. */
const SURE_MISSING = 0.75;

/** What was found in the mix and in no track, as a question. */
function missingQuestions({ balance, session }: Pick<SessionView, 'balance' | 'session'>): string[] {
  const mix = balance?.mixTrackId != null ? session.nodes[balance.mixTrackId] : undefined;
  const parts = balance?.missing.filter((m) => m.confidence >= SURE_MISSING) ?? [];
  return isTrack(mix) && parts.length > 0 ? [askMissing(mix.receivedName, parts)] : [];
}

/** Several songs in what was dropped. */
interface SeveralSongs {
  readonly found: NonNullable<ReturnType<typeof songsOf>>;
  readonly all: readonly File[];
}

/** Files as a person hands them over: without what systems leave in folders; asked about where they are of several songs. */
function useImport(sessionId: string): {
  readonly songs: SeveralSongs | null;
  /** Files that were left out. */
  readonly skipped: number;
  readonly importFiles: (list: readonly File[]) => void;
  readonly letGo: () => void;
} {
  const [skipped, setSkipped] = useState(0);
  const [songs, setSongs] = useState<SeveralSongs | null>(null);
  return {
    songs,
    skipped,
    importFiles: (list) => {
      const wanted = list.filter((f) => !HIDDEN_FILE.test(f.webkitRelativePath || f.name));
      setSkipped(list.length - wanted.length);
      const several = songsOf(wanted);
      if (several) setSongs({ found: several, all: wanted });
      else startUploads(sessionId, wanted);
    },
    letGo: () => setSongs(null),
  };
}

function NoRecordings() {
  return (
    <Empty className="fm-dropzone">
      <Icon name="box-arrow-in-down" />
      <p>Drop the recordings of the song here, or a whole folder.</p>
      <p className="fm-faint">
        WAV, AIFF, FLAC and other sound files of up to 32 channels, MIDI files, also in ZIP archives. What
        lies on this machine can be used in place. All begin at the same zero; the files you send are never
        changed.
      </p>
    </Empty>
  );
}

interface InHand {
  readonly inHand: IntakeInHand;
  readonly nameOf: (id: string) => string;
}

/** What was found, what else came with it, and what came in. */
function Lists({ inHand, nameOf }: InHand) {
  const scroller = useRef<HTMLDivElement>(null);
  return (
    <div className="fm-scroll" ref={scroller}>
      {inHand.findings.length > 0 && (
        <div className="fm-findings" role="group" aria-label="What was found">
          {inHand.findings.map(({ finding, aside }) => (
            <FindingRow
              key={`${finding.code} ${aside}`}
              finding={finding}
              here={inHand.finding?.finding === finding && inHand.finding.aside === aside}
              nameOf={nameOf}
              onSelect={() => inHand.choose({ code: finding.code, aside })}
            />
          ))}
        </div>
      )}
      <OtherFiles />
      <RecordingsTable inHand={inHand} scroller={scroller} />
    </div>
  );
}

function Details({ inHand: { finding, recording }, nameOf }: InHand) {
  const view = useSession((s) => s.view);
  const { open } = findingsOf(view);
  if (finding)
    return (
      <FindingPanel
        key={`${finding.finding.code} ${finding.aside}`}
        finding={finding.finding}
        aside={finding.aside}
        nameOf={nameOf}
      />
    );
  if (recording) return <RecordingPanel recording={recording} findings={open} />;
  const ready = view.recordings.filter((r) => r.state === 'ready').length;
  return <IntakeHelp findings={open.length} recordings={ready} />;
}
