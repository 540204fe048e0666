'use client';
import { useMemo, useState } from 'react';
import { faultText } from '@/contracts';
import { noteTracks, soundTracks } from '@/core/session';
import {
  faultOf,
  selectOnly,
  useGoOn,
  useOwnDoubts,
  useSession,
  useSessionStore,
  useWorkbench,
} from '@/ui/client';
import { originOf } from '@/core/tidy';
import { Notice } from '@/ui/kit';
import { usePlayer } from '@/ui/listening';
import { cutChanges, fineCuts, wholeAgain } from './apply-cuts';
import { forgetTicks, resetHand, tidyHand, useKeptTidyHand, useTidyHand } from './tidy-hand';
import { TidyHead } from './tidy-head';
import { TidyPanel } from './tidy-panel';
import { doubtsOf, type ShownPiece, type TidyRow, tidyRows, togetherWith } from './tidy-rows';
import { TidySheet } from './tidy-sheet';
import { useHandCuts } from './use-hand-cuts';
import { useEdgePlaces } from './use-edge-snap';
import { useHandTools } from './use-hand-tools';
import { useHearing } from './use-hearing';
import { Levels } from './levels-view';
import { Match } from './match-view';
import { nextView, type TidyView } from './tidy-views';
import { type Proposals, useProposals } from './use-proposals';
import { useTidyKeys } from './use-tidy-keys';

/** A key moves an edge by so much, s. */
const EDGE_STEP_SECONDS = 0.02;
/** So much is heard before a piece one has walked to, s. */
const LEAD_SECONDS = 0.5;

/** What stays and what goes of every track, and levels for a first listen: proposed, heard, decided, done as one step. */
export function TidyStage({ openAt }: { readonly openAt: TidyView }) {
  const hasTracks = useSession((s) => soundTracks(s.view.session).length > 0);
  const [view, setView] = useState(openAt);
  if (!hasTracks) return <NoTracks />;
  const show = (to: TidyView): void => {
    setView(to);
    window.history.replaceState(null, '', to === 'cuts' ? window.location.pathname : `?view=${to}`);
  };
  if (view === 'match') return <Match onView={show} />;
  return view === 'levels' ? <Levels onView={show} /> : <Cuts onView={show} />;
}

function Cuts({ onView }: { readonly onView: (to: TidyView) => void }) {
  const sessionId = useSession((s) => s.view.id);
  useKeptTidyHand(sessionId);
  const proposals = useProposals();
  const inHand = useRows(proposals);
  const { rows, current, chosen, together, piece } = inHand;
  const cutting = useCutting(rows);
  const hearing = useHearing();
  const places = useEdgePlaces();
  const { moveEdge, pullEdge, decide, work } = useHandCuts(rows, places);
  const tools = useHandTools(current, piece, { work, places });
  const decideHere = (keeps: boolean): void => {
    if (!current || !piece) return;
    decide(current, piece, keeps);
    if (piece.isDoubtful) inHand.walk();
  };
  const goOn = useGoOn('tempo');
  const rateHz = useSession((s) => s.view.session.sampleRateHz) ?? 48_000;
  const ticked = rows.filter((r) => r.ticked === true);
  const waits = cutting.isBusy || proposals.progress !== null;
  const runMain = (): void => {
    if (waits) return;
    if (ticked.length > 0) void cutting.apply();
    else goOn();
  };
  const hear = (part: 'around' | 'gone'): void => {
    if (current) hearing.toggle(part, current, piece);
  };
  const whole = (): void => cutting.whole(chosen);
  useTidyKeys({
    rows,
    onMain: runMain,
    onHear: hear,
    onWhole: whole,
    onDecide: decideHere,
    onStep: inHand.stepPiece,
    onEdge: (isEnd, by) => {
      const edge = isEnd ? piece?.toFrames : piece?.fromFrames;
      if (current && edge !== undefined) moveEdge(current, edge, edge + by * EDGE_STEP_SECONDS * rateHz);
    },
    isHearing: hearing.part !== null,
    onStop: hearing.stop,
    onView: () => onView(nextView('cuts')),
    tools,
  });
  return (
    <section className="fm-split" aria-label="Tidy">
      <div className="fm-pane">
        <TidyHead
          onView={onView}
          rows={rows}
          proposals={proposals}
          isBusy={cutting.isBusy}
          waits={waits}
          onMain={runMain}
        />
        {cutting.fault !== null && (
          <Notice tone="danger" className="fm-tight" onClose={cutting.dismiss}>
            {cutting.fault}
          </Notice>
        )}
        {proposals.failed && (
          <Notice tone="warning" className="fm-tight">
            The levels of the recordings cannot be fetched; they are asked for again every few seconds.
          </Notice>
        )}
        <TidySheet rows={rows} inHand={piece} onPiece={inHand.take} onEdge={pullEdge} />
      </div>
      <TidyPanel
        current={current}
        chosen={chosen}
        together={together}
        piece={piece}
        byTrack={proposals.byTrack}
        rows={rows}
        hearing={hearing}
        tools={tools}
        onDecide={decideHere}
        onHear={hear}
        onWhole={whole}
      />
    </section>
  );
}

/** The rows, what is selected of them, and the piece in hand. */
function useRows(proposals: Proposals) {
  const session = useSession((s) => s.view.session);
  const recordings = useSession((s) => s.view.recordings);
  const choices = useTidyHand((h) => h.choices);
  const ticks = useTidyHand((h) => h.ticks);
  const currentId = useWorkbench((w) => w.current);
  const selected = useWorkbench((w) => w.selected);
  const player = usePlayer();
  const { byTrack } = proposals;
  const rows = useMemo(
    () => tidyRows({ session, recordings }, byTrack, { choices, ticks }),
    [session, recordings, byTrack, choices, ticks],
  );
  /** Where the piece in hand lies: it is found again when controls move its edges. */
  const [at, setAt] = useState<{ readonly trackId: string; readonly frame: number } | null>(null);
  const current = rows.find((r) => r.track.id === currentId) ?? null;
  const chosen = useMemo(() => {
    const found = rows.filter((r) => selected.has(r.track.id));
    return found.length > 0 || !current ? found : [current];
  }, [rows, selected, current]);
  const together = togetherWith(
    rows,
    chosen.map((r) => r.track.id),
  );
  const piece =
    at !== null && current !== null && at.trackId === current.track.id
      ? (current.pieces.find((p) => at.frame >= p.fromFrames && at.frame < p.toFrames) ?? null)
      : null;
  const rateHz = session.sampleRateHz ?? 48_000;
  const take = (trackId: string, p: ShownPiece): void =>
    setAt({ trackId, frame: Math.floor((p.fromFrames + p.toFrames) / 2) });
  const goTo = (row: TidyRow, p: ShownPiece): void => {
    selectOnly(row.track.id);
    take(row.track.id, p);
    player.seek(Math.max(0, p.fromFrames / rateHz - LEAD_SECONDS));
  };
  const doubts = doubtsOf(rows);
  const walk = (): void => {
    const order = (trackId: string, frame: number): number =>
      rows.findIndex((r) => r.track.id === trackId) + frame / 1e12;
    const now = at ? order(at.trackId, at.frame) : -1;
    const next = doubts.find((d) => order(d.row.track.id, d.piece.fromFrames) > now) ?? doubts[0];
    if (next) goTo(next.row, next.piece);
  };
  useOwnDoubts(doubts.length > 0 ? walk : () => undefined);
  return {
    rows,
    current,
    chosen,
    together,
    piece,
    take,
    /** To the next piece that somebody should hear. */
    walk,
    /** The piece before or after the one in hand. */
    stepPiece: (by: -1 | 1): void => {
      if (!current || current.pieces.length === 0) return;
      const now = piece ? current.pieces.indexOf(piece) : by > 0 ? -1 : current.pieces.length;
      const next = current.pieces[Math.max(0, Math.min(current.pieces.length - 1, now + by))];
      if (next) goTo(current, next);
    },
  };
}

/** Doing what is ticked, as one step; and undoing cuts of tracks. */
function useCutting(rows: readonly TidyRow[]) {
  const store = useSessionStore();
  const [isBusy, setBusy] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  const apply = async (): Promise<void> => {
    const ticked = rows.filter((r) => r.ticked === true);
    if (isBusy || ticked.length === 0) return;
    setBusy(true);
    setFault(null);
    try {
      const { session } = store.getState().view;
      const hand = tidyHand.getState();
      const cuts = await fineCuts(ticked, hand, {
        rateHz: session.sampleRateHz ?? 48_000,
        originFrames: originOf(soundTracks(session)),
      });
      const changes = cutChanges(cuts, hand);
      // What was arranged otherwise meanwhile is left, and not counted.
      const count = changes(store.getState().view).length;
      const label = ticked.length === 1 ? `Tidy ${ticked[0]?.track.name}` : `Tidy ${count} tracks`;
      if (count > 0 && store.getState().commit(label, changes)) forgetTicks(ticked.map((r) => r.track.id));
    } catch (cause) {
      const found = faultOf(cause);
      setFault(
        found.offline
          ? 'Nothing was cut, as Fernmoss does not answer. What was decided is kept: cut again once it does.'
          : `Nothing was cut. ${faultText(found)}`,
      );
    } finally {
      setBusy(false);
    }
  };
  const whole = (chosen: readonly TidyRow[]): void => {
    const tracks = chosen.map((r) => r.track);
    const changes = wholeAgain(tracks);
    if (changes.length === 0) return;
    store
      .getState()
      .commit(tracks.length === 1 ? `All edges of ${tracks[0]?.name} back` : 'All edges back', changes);
    resetHand(tracks.map((t) => t.id));
    // Whole is what is wanted now: the proposal waits to be asked for again.
    tidyHand.setState({
      ticks: { ...tidyHand.getState().ticks, ...Object.fromEntries(tracks.map((t) => [t.id, false])) },
    });
  };
  return { isBusy, fault, apply, whole, dismiss: () => setFault(null) };
}

function NoTracks() {
  const sessionId = useSession((s) => s.view.id);
  const hasNotes = useSession((s) => noteTracks(s.view.session).length > 0);
  return (
    <section className="fm-pane" aria-label="Tidy">
      <header className="fm-stage-head">
        <h1>Tidy</h1>
      </header>
      <div className="fm-empty">
        <p>{hasNotes ? 'Only notes so far: there is no sound to tidy.' : 'No recordings yet.'}</p>
        <p className="fm-faint">What can go of a track is proposed as soon as it has arrived.</p>
        <a className="fm-button" href={`/sessions/${sessionId}/intake`}>
          Go to Intake
        </a>
      </div>
    </section>
  );
}
