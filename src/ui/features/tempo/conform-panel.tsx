'use client';
import { useState } from 'react';
import { formatBarPulse } from '@/core/time';
import { useSession, useSessionStore, useSongMap } from '@/ui/client';
import { Button, formatBytes, Icon, Kbd, Line, TextInput } from '@/ui/kit';
import { usePlayerState } from '@/ui/listening';
import { METHOD_WORDS } from './conform-words';
import type { Audition } from './use-audition';
import type { ConformDraft } from './use-conform-draft';

/** Hearing it: a few bars at once before deciding, the whole song afterwards, each beside what was played. */
export function ConformPanel({
  draft,
  audition,
  ready,
  wanted,
}: {
  readonly draft: ConformDraft;
  readonly audition: Audition;
  readonly ready: number;
  readonly wanted: number;
}) {
  const store = useSessionStore();
  const session = useSession((s) => s.view.session);
  const { conform } = session;
  const map = useSongMap();
  const place = (seconds: number): string => (map ? formatBarPulse(map, seconds + 0.01) : '');
  const hear = (heard: 'played' | 'conformed'): void => {
    if (conform && conform.heard !== heard)
      store
        .getState()
        .commit(heard === 'conformed' ? 'Hear it conformed' : 'Hear it as played', [
          { kind: 'conform.set', conform: { ...conform, heard } },
        ]);
  };
  return (
    <aside className="fm-panel" aria-label="Listening to it">
      <h2>Try a few bars</h2>
      <p className="fm-faint fm-below-2">
        Only these bars are made, in seconds: the repeated stretch, or four bars from where you are, of up to
        six tracks or folders (those in solo, else one of each kind). Both sides are made equally loud.
      </p>
      <div className="fm-choices">
        {audition.state === 'off' && (
          <Button tone="choice" onClick={() => void audition.start()}>
            <Kbd>B</Kbd>
            <span className="fm-grow">Hear them at {draft.bpm}</span>
          </Button>
        )}
        {audition.state === 'rendering' && (
          <p className="fm-tight" role="status">
            Making them …
          </p>
        )}
        {(audition.state === 'conformed' || audition.state === 'played') && (
          <>
            <Button
              tone="choice"
              isOn={audition.state === 'conformed'}
              onClick={() => {
                if (audition.state !== 'conformed') void audition.toggle();
              }}
            >
              {audition.state !== 'conformed' && <Kbd>B</Kbd>}
              <span className="fm-grow">At {draft.bpm}</span>
            </Button>
            <Button
              tone="choice"
              isOn={audition.state === 'played'}
              onClick={() => {
                if (audition.state !== 'played') void audition.toggle();
              }}
            >
              {audition.state !== 'played' && <Kbd>B</Kbd>}
              <span className="fm-grow">As played</span>
            </Button>
          </>
        )}
      </div>
      {audition.fault && <p className="fm-attention">{audition.fault}</p>}
      {audition.range && (
        <>
          <p className="fm-faint fm-below-1">
            <span className="fm-mono">{place(audition.range.from)}</span> to{' '}
            <span className="fm-mono">{place(audition.range.to)}</span>: {audition.names.join(', ')}
            {audition.tookSeconds !== null && `. Made in ${audition.tookSeconds.toFixed(1)} s.`}
          </p>
          <Line as="p" align="start" wraps>
            <Button onClick={() => void audition.start()}>Other bars: from here</Button>
            <Button onClick={audition.stop}>Back to the song</Button>
          </Line>
        </>
      )}
      <h3>The whole song</h3>
      {conform ? (
        <>
          <div className="fm-choices">
            <Button
              tone="choice"
              isOn={conform.heard === 'conformed'}
              disabled={ready === 0}
              onClick={() => hear('conformed')}
            >
              <span className="fm-grow">Conformed to {conform.bpm}</span>
              {ready < wanted && (
                <span className="fm-mono">
                  {ready}/{wanted}
                </span>
              )}
            </Button>
            <Button tone="choice" isOn={conform.heard === 'played'} onClick={() => hear('played')}>
              <span className="fm-grow">As played</span>
            </Button>
          </div>
          <p className="fm-faint">
            Both stay. The one chosen here is what the player and the handover take; the place in the song is
            kept when you change over.
          </p>
        </>
      ) : (
        <p className="fm-faint">
          Nothing is conformed yet. “Conform to {draft.bpm}” makes all tracks; the recordings stay as they
          are.
        </p>
      )}
      {!draft.isAccepted && <Room draft={draft} />}
      <KeptBars draft={draft} />
      <h3>Ways to follow</h3>
      <dl className="fm-ways">
        <dt>cut at every hit</dt>
        <dd>{METHOD_WORDS.slices}</dd>
        <dt>stretched</dt>
        <dd>{METHOD_WORDS.held}</dd>
        <dt>moved</dt>
        <dd>{METHOD_WORDS.none}</dd>
        <dt>tied to time</dt>
        <dd>{METHOD_WORDS.still}</dd>
      </dl>
    </aside>
  );
}

/** What the conformed recordings take: 32 bit float beside the originals. */
function Room({ draft }: { readonly draft: ConformDraft }) {
  const { session, recordings, freeBytes } = useSession((s) => s.view);
  const { plan } = draft;
  const rate = session.sampleRateHz;
  if (!plan || rate === null) return null;
  const needed = recordings.reduce(
    (n, r) =>
      n +
      (r.sessionFrames === null
        ? 0
        : plan.warp.toConformed(r.sessionFrames / rate) * rate * (r.channels ?? 1) * 4),
    0,
  );
  return (
    <p className={needed > freeBytes ? 'fm-attention' : 'fm-faint'}>
      Takes about {formatBytes(needed)} on this disk; {formatBytes(freeBytes)} are free.
      {needed > freeBytes &&
        ' That does not fit: clean up a session first, in the list of sessions under its size.'}
    </p>
  );
}

/** Bars tied to time: a free introduction, a fermata. */
function KeptBars({ draft }: { readonly draft: ConformDraft }) {
  const rate = useSession((s) => s.view.session.sampleRateHz ?? 48_000);
  const loop = usePlayerState((s) => s.loop);
  const { plan, keep } = draft;
  const [from, setFrom] = useState('');
  const [to, setTo] = useState('');
  const map = useSongMap();
  if (!plan || !map) return null;
  const { meters, tempo } = map;
  // People call bars by their own numbers; the settings count from the first downbeat.
  const called = meters.numberOf;
  const own = (number: number): number => number - (called(1) - 1);
  const barAt = (frames: number): number =>
    called(Math.max(1, meters.toBar(tempo.toQuarters(frames / rate)).bar));
  // The repeated stretch is what one has just listened to: it is offered.
  const offered = loop
    ? { fromBar: barAt(loop.startFrames + rate * 0.05), toBar: barAt(loop.endFrames - rate * 0.05) }
    : null;
  const [first, last] = [Number(from || offered?.fromBar || 0), Number(to || offered?.toBar || from || 0)];
  const fits = Number.isInteger(first) && Number.isInteger(last) && own(first) >= 1 && last >= first;
  const add = (): void => {
    if (!fits) return;
    draft.setKeep([...keep, { fromBar: own(first), toBar: own(last) }]);
    setFrom('');
    setTo('');
  };
  return (
    <>
      <h3>Bars tied to time</h3>
      {keep.length === 0 && (
        <p className="fm-faint fm-below-1">
          None: the whole song follows. Bars kept here stay as long as they were played; what comes after
          moves.
        </p>
      )}
      {keep.map((k) => (
        <Line key={k.fromBar} as="p" className="fm-below-1">
          <span className="fm-grow">
            {k.fromBar === k.toBar
              ? `Bar ${called(k.fromBar)} keeps its time`
              : `Bars ${called(k.fromBar)}–${called(k.toBar)} keep their time`}
          </span>
          <Button
            tone="quiet"
            onClick={() => draft.setKeep(keep.filter((o) => o !== k))}
            aria-label={`Let bars ${called(k.fromBar)} to ${called(k.toBar)} follow`}
          >
            <Icon name="x-lg" />
          </Button>
        </Line>
      ))}
      <div className="fm-bars">
        <TextInput
          className="fm-mono"
          inputMode="numeric"
          aria-label="First bar tied to time"
          placeholder={offered ? String(offered.fromBar) : 'from'}
          value={from}
          onChange={(e) => setFrom(e.target.value)}
        />
        <span>to</span>
        <TextInput
          className="fm-mono"
          inputMode="numeric"
          aria-label="Last bar tied to time"
          placeholder={offered ? String(offered.toBar) : 'to'}
          value={to}
          onChange={(e) => setTo(e.target.value)}
          onKeyDown={(e) => {
            if (e.key === 'Enter') add();
          }}
        />
        <Button disabled={!fits} onClick={add}>
          Keep
        </Button>
      </div>
    </>
  );
}
