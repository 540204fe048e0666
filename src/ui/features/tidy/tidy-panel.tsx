'use client';
import { NOTHING_WORDS, REASON_WORDS, type TidyProposal } from '@/core/tidy';
import { useSession } from '@/ui/client';
import { Button, Clock, formatDb, Kbd, Line } from '@/ui/kit';
import { BeforeSongOffer } from './before-song-offer';
import { CutControls } from './cut-controls';
import { HandPanel } from './hand-panel';
import type { HandTools } from './use-hand-tools';
import { SongEndsPart } from './song-ends-part';
import type { Hearing } from './use-hearing';
import { goneOf, type ShownPiece, type TidyRow } from './tidy-rows';
import { WaysToHear, type WayToHear } from './ways-to-hear';

const PARTS: readonly WayToHear<'around' | 'gone'>[] = [
  { way: 'around', words: 'Around the cuts', keyCap: 'O' },
  { way: 'gone', words: 'Only what goes', keyCap: '⇧O' },
];

/** The right panel: what goes of what is selected and why, listening to it, its controls. */
export function TidyPanel({
  current,
  chosen,
  together,
  piece,
  byTrack,
  rows,
  hearing,
  tools,
  onDecide,
  onHear,
  onWhole,
}: {
  readonly current: TidyRow | null;
  /** Selected rows. */
  readonly chosen: readonly TidyRow[];
  /** Tracks that the controls change: those, and what is cut with them. */
  readonly together: readonly string[];
  readonly piece: ShownPiece | null;
  readonly byTrack: ReadonlyMap<string, TidyProposal>;
  readonly rows: readonly TidyRow[];
  readonly hearing: Hearing;
  readonly tools: HandTools;
  readonly onDecide: (keeps: boolean) => void;
  readonly onHear: (part: 'around' | 'gone') => void;
  readonly onWhole: () => void;
}) {
  if (!current)
    return (
      <aside className="fm-panel" aria-label="Track">
        <h2>Tidy</h2>
        <p className="fm-faint">
          What stays is in full ink, what goes is pale and hatched. Nothing is taken out of a recording: every
          edge can be pulled out again.
        </p>
        <p className="fm-faint">
          Select a track to hear its cuts and to change them. <Kbd>N</Kbd> walks through the pieces somebody
          should listen to.
        </p>
        <BeforeSongOffer byTrack={byTrack} />
        <SongEndsPart rows={rows} />
      </aside>
    );
  const isMany = chosen.length > 1;
  const isCut = chosen.some(
    (r) => r.track.clips.length > 1 || r.pieces.some((p) => p.span === null && !p.keeps),
  );
  return (
    <aside className="fm-panel" aria-label="Track">
      <h2>{isMany ? `${chosen.length} tracks` : current.track.name}</h2>
      {!isMany && <Summary row={current} />}
      {piece && !isMany && <PieceInHand piece={piece} onDecide={onDecide} />}
      {!isMany && current.lane !== null && current.pieces.some((p) => !p.keeps) && (
        <>
          <h3>Listen</h3>
          <WaysToHear ways={PARTS} heard={hearing.part} onToggle={onHear} onStop={hearing.stop} />
        </>
      )}
      {!isMany && <HandPanel row={current} tools={tools} />}
      {current.proposal && <CutControls trackIds={together} rows={chosen} />}
      {isCut && (
        <Line as="p" align="start">
          <Button onClick={onWhole}>
            All edges back <Kbd>⌫</Kbd>
          </Button>
        </Line>
      )}
    </aside>
  );
}

/** What goes of a track, by reason. */
function Summary({ row }: { readonly row: TidyRow }) {
  const rateHz = useSession((s) => s.view.session.sampleRateHz) ?? 48_000;
  const { proposal, leftBecause, ticked } = row;
  if (leftBecause === 'arranged')
    return (
      <p className="fm-faint">
        Arranged by hand: several takes, pieces that were moved or silenced. Nothing is proposed for it.
      </p>
    );
  if (leftBecause === 'missing') return <p className="fm-attention">Its sound is not there: see Intake.</p>;
  if (!proposal) return <p className="fm-faint">Not weighed yet: its recording is listened to first.</p>;
  const gone = goneOf(row, rateHz);
  const reasons = [...new Set(row.pieces.filter((p) => !p.keeps && p.span !== null).map((p) => p.reason))];
  return (
    <>
      {proposal.nothingBecause !== null && <p>Left whole: {NOTHING_WORDS[proposal.nothingBecause]}.</p>}
      {gone.places > 0 && (
        <p className="fm-below-1">
          <Clock seconds={gone.seconds} decimals={1} /> in {gone.places}{' '}
          {gone.places === 1 ? 'place' : 'places'} {ticked === true ? 'would go' : 'are out'}
          {proposal.group === 'kit' ? ', the same on the whole kit' : ''}.
        </p>
      )}
      {ticked === false && (
        <p className="fm-faint fm-below-1">
          What is proposed differs from this; <Kbd>X</Kbd> shows it and takes it.
        </p>
      )}
      {reasons.length > 0 && (
        <dl className="fm-tidy-reasons">
          {reasons.map((reason) => {
            const pieces = row.pieces.filter((p) => !p.keeps && p.reason === reason);
            const frames = pieces.reduce((sum, p) => sum + p.toFrames - p.fromFrames, 0);
            return (
              <div key={reason}>
                <dt>{REASON_WORDS[reason]}</dt>
                <dd className="num">
                  {pieces.length} × · <Clock seconds={frames / rateHz} decimals={1} />
                </dd>
              </div>
            );
          })}
        </dl>
      )}
      {proposal.floorDbfs !== null && (
        <p className="fm-faint">Steady noise at {formatDb(proposal.floorDbfs)} dBFS.</p>
      )}
    </>
  );
}

/** One piece: what it is, and whether it stays. */
function PieceInHand({
  piece,
  onDecide,
}: {
  readonly piece: ShownPiece;
  readonly onDecide: (keeps: boolean) => void;
}) {
  const rateHz = useSession((s) => s.view.session.sampleRateHz) ?? 48_000;
  const isOpen = piece.span !== null;
  return (
    <div className="fm-tidy-piece">
      <h3>
        Piece at <Clock seconds={piece.fromFrames / rateHz} decimals={2} />
      </h3>
      <p className="fm-below-1">
        <Clock seconds={(piece.toFrames - piece.fromFrames) / rateHz} decimals={2} /> long:{' '}
        {piece.isDoubtful
          ? `it may be ${REASON_WORDS[piece.reason]}. Listen to it.`
          : isOpen
            ? `${REASON_WORDS[piece.reason]}.`
            : piece.isSilenced
              ? 'it is there, and silent.'
              : piece.keeps
                ? 'it stays.'
                : 'it is out.'}
      </p>
      <div className="fm-choices">
        <Button tone="choice" isOn={piece.keeps} onClick={() => onDecide(true)}>
          <Kbd>1</Kbd>
          <span className="fm-grow">It stays</span>
        </Button>
        <Button tone="choice" isOn={!piece.keeps} onClick={() => onDecide(false)}>
          <Kbd>2</Kbd>
          <span className="fm-grow">It goes</span>
        </Button>
      </div>
    </div>
  );
}
