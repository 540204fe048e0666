'use client';
import { useState } from 'react';
import { faultText } from '@/contracts';
import type { Track } from '@/core/session';
import { selectOnly, useSession, useSessionStore } from '@/ui/client';
import { Button, Icon, Labelled, Line, Notice, Progress, Select } from '@/ui/kit';
import { usePlayer } from '@/ui/listening';
import {
  type OpenTakes,
  openTakes,
  packingOf,
  packingOfAnswer,
  type TakesOffer,
  type TakesQuestion,
} from './open-takes';

/** What was recorded several times: offered as lanes of one track, or asked about. */
export function TakesPane({ hasPacked }: { readonly hasPacked: boolean }) {
  const view = useSession((s) => s.view);
  const actions = useTakeActions();
  const { pack, putAside } = actions;
  const open = openTakes(view);
  return (
    <div className={hasPacked ? 'fm-takes is-above' : 'fm-scroll fm-takes'}>
      <Looking open={open} actions={actions} />
      {open.questions.map((q) => (
        <Question
          key={q.keys.join()}
          question={q}
          onPack={() => pack([packingOfAnswer(q)])}
          onAside={() => putAside(q.keys, 'they sound together')}
        />
      ))}
      {open.offers.map((o) => (
        <Offer
          key={o.keys.join()}
          offer={o}
          onPack={(wantedId) => pack([packingOf(o, wantedId)])}
          onAside={() => putAside(o.keys, 'left apart')}
        />
      ))}
      {view.takes !== null && open.offers.length + open.questions.length === 0 && (
        <p className="fm-sides-2 fm-above-2">
          Nothing is open: no takes that are not packed, and no questions.
        </p>
      )}
      <Settled open={open} onAgain={(keys) => putAside(keys, null)} />
    </div>
  );
}

/** Looking for takes, what it went by, and packing all at once. */
function Looking({
  open: { offers },
  actions: { find, cancel, pack },
}: {
  readonly open: OpenTakes;
  readonly actions: ReturnType<typeof useTakeActions>;
}) {
  const view = useSession((s) => s.view);
  const job = view.jobs.find((j) => j.kind === 'takes.find');
  const isLooking = job?.state === 'queued' || job?.state === 'running';
  const isLooked = view.takes !== null;
  return (
    <>
      <Line wraps className="fm-inside-2 fm-sides-2">
        {isLooking ? (
          <Progress label="Looking for takes" share={job.progress} onCancel={() => cancel(job.id)} />
        ) : (
          <Button onClick={find}>{isLooked ? 'Look again' : 'Look for takes'}</Button>
        )}
        {offers.length > 1 && (
          <Button onClick={() => pack(offers.map((o) => packingOf(o)))}>
            Pack {offers.length === 2 ? 'both' : `all ${offers.length}`} parts
          </Button>
        )}
        <span className="fm-faint">{isLooked ? lookedText(view) : LOOK_TEXT}</span>
      </Line>
      {job?.state === 'failed' && job.fault && (
        <Notice tone="danger" className="fm-tight">
          Takes were not looked for. {faultText(job.fault)}
        </Notice>
      )}
    </>
  );
}

/** What stays tracks of its own: as a person said, or as it was told. */
function Settled({
  open: { apart, together },
  onAgain,
}: {
  readonly open: OpenTakes;
  readonly onAgain: (keys: readonly string[]) => void;
}) {
  return (
    <>
      {apart.length > 0 && (
        <section className="fm-sides-2 fm-above-2" aria-label="Left apart">
          <h3>Left apart, as you said</h3>
          <ul className="fm-tight">
            {apart.map(({ tracks, keys }) => (
              <li key={keys.join()}>
                {tracks.map((t) => t.name).join(', ')}{' '}
                <Button tone="link" onClick={() => onAgain(keys)}>
                  Ask again
                </Button>
              </li>
            ))}
          </ul>
        </section>
      )}
      {together.length > 0 && (
        <section className="fm-sides-2 fm-above-2" aria-label="Stay tracks of their own">
          <h3>Alike, but they sound together: they stay tracks of their own</h3>
          <ul className="fm-tight">
            {together.map(({ tracks, reason }) => (
              <li key={`${tracks.map((t) => t.id).join(' ')} ${reason}`}>
                {tracks.map((t) => t.name).join(', ')}: <span className="fm-faint">{reason}</span>
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}

const LOOK_TEXT =
  'Takes of one part become lanes of one track: told by names, by ear, and by the rough mix where there is one.';

const lookedText = ({ takes, session }: Parameters<typeof openTakes>[0]): string => {
  const mix = takes?.mixTrackId ? session.nodes[takes.mixTrackId]?.name : undefined;
  return mix === undefined ? 'No track is a rough mix that could tell.' : `Rough mix: ${mix}.`;
};

function useTakeActions() {
  const store = useSessionStore();
  const id = useSession((s) => s.view.id);
  const call = (path: string, body: object): void => void store.getState().call(path, body);
  return {
    find: () => call(`/api/sessions/${id}/takes`, { find: true }),
    pack: (groups: readonly ReturnType<typeof packingOf>[]) =>
      call(`/api/sessions/${id}/takes`, { pack: { groups } }),
    cancel: (jobId: string) => void store.getState().call(`/api/jobs/${jobId}/cancel`),
    /** `note` null = it is asked again. */
    putAside: (keys: readonly string[], note: string | null) =>
      call(`/api/sessions/${id}/findings`, { keys, note }),
  };
}

function Question({
  question: { tracks, question },
  onPack,
  onAside,
}: {
  readonly question: TakesQuestion;
  readonly onPack: () => void;
  readonly onAside: () => void;
}) {
  return (
    <section className="fm-take-card" aria-label={`Question about ${tracks.map((t) => t.name).join(', ')}`}>
      <p className="fm-attention fm-tight">{question}</p>
      <Tracks tracks={tracks} />
      <Line wraps>
        <Button onClick={onPack}>They are takes: pack</Button>
        <Button onClick={onAside}>They sound together</Button>
      </Line>
    </section>
  );
}

function Offer({
  offer,
  onPack,
  onAside,
}: {
  readonly offer: TakesOffer;
  readonly onPack: (wantedId: string | null) => void;
  readonly onAside: () => void;
}) {
  const { tracks, name, wantedId, numbers, reason, pieces } = offer;
  const [chosen, setChosen] = useState(wantedId);
  return (
    <section className="fm-take-card" aria-label={`Takes of ${name}`}>
      <p className="fm-tight">
        <b>{name}</b>, {tracks.length} takes. <span className="fm-faint">{reason}</span>
      </p>
      <Tracks tracks={tracks} numbers={numbers} />
      <Line align={pieces ? 'center' : 'end'} wraps>
        {pieces ? (
          <span className="fm-faint">Each sounds where it plays.</span>
        ) : (
          <Labelled id={`wanted-${tracks[0]?.id}`} label="Sounds">
            <Select isNarrow value={chosen ?? ''} onChange={(e) => setChosen(e.target.value)}>
              {tracks.map((t, i) => (
                <option key={t.id} value={t.id}>
                  {numbers[i]}: {t.name}
                </option>
              ))}
            </Select>
          </Labelled>
        )}
        <Button onClick={() => onPack(chosen)}>Pack as lanes of one track</Button>
        <Button tone="quiet" onClick={onAside}>
          Leave apart
        </Button>
      </Line>
    </section>
  );
}

/** The tracks of a group, each to be heard alone. */
function Tracks({
  tracks,
  numbers,
}: {
  readonly tracks: readonly Track[];
  readonly numbers?: readonly number[];
}) {
  const player = usePlayer();
  return (
    <ul className="fm-take-list">
      {tracks.map((t, i) => (
        <li key={t.id}>
          <Button
            tone="quiet"
            aria-label={`Listen to ${t.name} alone`}
            title="Listen alone"
            onClick={() => {
              player.setSolo(new Set([t.id]));
              void player.play();
            }}
          >
            <Icon name="headphones" />
          </Button>
          {numbers && <span className="fm-mono">{numbers[i]}</span>}
          <Button tone="link" onClick={() => selectOnly(t.id)}>
            {t.name}
          </Button>
          <span className="fm-faint fm-mono fm-truncate">{t.receivedName}</span>
        </li>
      ))}
    </ul>
  );
}
