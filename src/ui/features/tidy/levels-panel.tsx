'use client';
import { median } from '@/core/dsp';
import { soundTracks } from '@/core/session';
import { useSession, useSessionStore } from '@/ui/client';
import { Button, Clock, formatDb, formatPercent, Kbd, Line } from '@/ui/kit';
import { type Balance, balanceChanges, cameSince, untold } from './levels';
import { FarMicsPart } from './far-mics-part';
import { LevelsOfTrack } from './levels-of-track';
import type { BalanceHearing, HeardBalance } from './use-balances';
import { WaysToHear, type WayToHear } from './ways-to-hear';

/** Differences that the sentences name, dB; and how many of them. */
const [TOLD_DB, MOST_TOLD] = [1, 5];
/** A mix that is held down by less is not spoken of, dB. */
const TOLD_HELD_DB = -1.5;
/** From here on it is said without “perhaps”. */
const SURE_MISSING = 0.75;

/** The right panel of the levels: what is heard against what, what the mix says, taking one of them. */
export function LevelsPanel({
  hearing,
  onFind,
  isFinding,
}: {
  readonly hearing: BalanceHearing;
  readonly onFind: () => void;
  readonly isFinding: boolean;
}) {
  const store = useSessionStore();
  const view = useSession((s) => s.view);
  const { balance: result, session } = view;
  const mix = result?.mixTrackId != null ? session.nodes[result.mixTrackId] : undefined;
  const take = (balance: Balance, label: string): void => {
    hearing.stop();
    const changes = balanceChanges(balance, store.getState().view);
    if (changes.length > 0) store.getState().commit(label, changes);
  };
  const isNeutral = balanceChanges('neutral', view).length === 0;
  if (!result)
    return (
      <aside className="fm-panel" aria-label="Levels">
        <h2>Levels for a first listen</h2>
        <p className="fm-faint">
          By role and measured loudness: the voice forward, kick and snare carry, overheads and rooms under,
          pairs spread, the mix bus below −6 dBFS. Where the sender’s rough mix came along, what it does is
          read out of it as well.
        </p>
        <Button onClick={onFind} disabled={isFinding}>
          {isFinding ? 'Working them out …' : 'Work out levels'}
        </Button>
        <LevelsOfTrack />
        <FarMicsPart />
      </aside>
    );
  const since = cameSince(session, result).length;
  const ways: readonly WayToHear<HeardBalance>[] = [
    { way: 'now', words: 'As they are', keyCap: '1' },
    { way: 'rough', words: 'Rough balance', keyCap: '2' },
    ...(mix
      ? ([
          { way: 'mix', words: 'Tracks as in the rough mix', keyCap: '3' },
          { way: 'mix-itself', words: 'The rough mix itself', keyCap: '4' },
        ] as const)
      : []),
    { way: 'neutral', words: 'All neutral', keyCap: mix ? '5' : '3' },
  ];
  return (
    <aside className="fm-panel" aria-label="Levels">
      <h2>Hear one against another</h2>
      <p className="fm-faint fm-below-2">About equally loud, at the same place.</p>
      <WaysToHear ways={ways} heard={hearing.heard} onToggle={hearing.toggle} onStop={hearing.stop} />
      <LevelsOfTrack />
      <h3>Take for all</h3>
      <Line as="p" align="start" wraps>
        <Button onClick={() => take('rough', 'Take the rough balance')}>The rough balance</Button>
        {mix && (
          <Button onClick={() => take('mix', 'Take the levels of the rough mix')}>Those of the mix</Button>
        )}
        <Button disabled={isNeutral} onClick={() => take('neutral', 'All levels to neutral')}>
          All to neutral
        </Button>
      </Line>
      {mix && untold(result).size > 0 && (
        <p className="fm-faint">
          The level of {untold(result).size} could not be told from the mix; with its levels they are muted.
        </p>
      )}
      {result.peakDbfs !== null && (
        <p className="fm-faint">
          Under the rough balance the mix bus peaks at {formatDb(result.peakDbfs)} dBFS.
        </p>
      )}
      {since > 0 && (
        <p className="fm-attention">
          {since === 1 ? 'One track has' : `${since} tracks have`} no part in this: worked out again, they
          will.
        </p>
      )}
      <WhatTheMixSays />
      <FarMicsPart />
      <Line as="p" align="start">
        <Button tone="quiet" onClick={onFind} disabled={isFinding}>
          {isFinding ? 'Working them out …' : 'Work them out again'}
        </Button>
      </Line>
    </aside>
  );
}

function WhatTheMixSays() {
  const session = useSession((s) => s.view.session);
  const result = useSession((s) => s.view.balance);
  const hasReference = soundTracks(session).some((t) => t.family === 'reference');
  if (!result) return null;
  if (result.mixTrackId === null)
    return (
      <p className="fm-faint">
        {hasReference
          ? 'The reference there is has too little in common with the tracks to read levels from it.'
          : 'No rough mix came along.'}
      </p>
    );
  const differences = result.tracks
    .flatMap(({ trackId, rough, mix }) => {
      const node = session.nodes[trackId];
      return mix && node ? [{ name: node.name, by: mix.gainDb - rough.gainDb }] : [];
    })
    .filter((d) => Math.abs(d.by) >= TOLD_DB);
  // Both are free to be louder as a whole: what counts is against the middle of all.
  const middle = median(differences.map((d) => d.by));
  const told = differences
    .map((d) => ({ ...d, by: d.by - middle }))
    .filter((d) => Math.abs(d.by) >= TOLD_DB)
    .sort((a, b) => Math.abs(b.by) - Math.abs(a.by))
    .slice(0, MOST_TOLD);
  return (
    <>
      <h3>What the rough mix says</h3>
      <p className="fm-below-1">
        The tracks explain {formatPercent(result.explained ?? 0)} of it
        {result.isInverted ? '; its polarity is inverted' : ''}
        {result.isMonoMix ? '; it is mono and says nothing of places' : ''}.
        {(result.heldDownDb ?? 0) <= TOLD_HELD_DB &&
          ` Where it is loudest it is held down by up to ${Math.abs(result.heldDownDb ?? 0).toFixed(1)} dB, by a limiter or saturation: the levels are read without that.`}
      </p>
      {told.length > 0 && (
        <ul className="fm-tidy-list">
          {told.map((d) => (
            <li key={d.name}>
              {d.name} {Math.abs(d.by).toFixed(1)} dB {d.by > 0 ? 'above' : 'below'} the rough balance
            </li>
          ))}
        </ul>
      )}
      {result.missing.length > 0 && (
        <>
          <p className="fm-attention fm-below-1">
            In the mix, but in no track
            {result.missing.every((m) => m.confidence < SURE_MISSING) ? ', perhaps' : ''}:
          </p>
          <ul className="fm-tidy-list">
            {result.missing.map((m) => (
              <li key={`${m.fromSeconds} ${m.fromHz}`}>
                <Clock seconds={m.fromSeconds} decimals={0} /> to <Clock seconds={m.toSeconds} decimals={0} />
                , {Math.round(m.fromHz)}–{Math.round(m.toHz)} Hz ({m.range})
              </li>
            ))}
          </ul>
          <p className="fm-faint">
            What is sure of it is among the questions to the sender at Intake (<Kbd>Q</Kbd> there).
          </p>
        </>
      )}
    </>
  );
}
