'use client';
import Link from 'next/link';
import { useMemo, useState } from 'react';
import { checkFactsOf, faultText, type HandoverView, type PackageContents as Contents } from '@/contracts';
import { asConformed } from '@/core/conform';
import {
  checkSession,
  handedLanes,
  packageBytes,
  type PackagePlan,
  planPackage,
  PLAYED_BASE,
  type SessionCheck,
} from '@/core/delivery';
import { soundingLanes } from '@/core/arrange';
import { type SessionState, soundTracks } from '@/core/session';
import { knownNames, useHits, useSession, useSessionStore, WithLibraries } from '@/ui/client';
import {
  Button,
  CopyButton,
  formatBytes,
  formatPercent,
  Icon,
  Kbd,
  keptChoice,
  Progress,
  Select,
  useShortcuts,
} from '@/ui/kit';
import { CoverNoteDialog } from './cover-note-dialog';
import { FolderDialog } from '@/ui/folders';
import { PackageTree } from './package-tree';

/** What the mixer can rely on, what will be in the package, and building it. */
export function HandoverStage() {
  const { nodes } = useSession((s) => s.view.session);
  return (
    <WithLibraries namesOfFiles={Object.values(nodes).map((n) => n.name)}>
      <Handover />
    </WithLibraries>
  );
}

function Handover() {
  const store = useSessionStore();
  const view = useSession((s) => s.view);
  const { handovers, jobs } = view;
  const [shown, setShown] = useState<string | null>(null);
  const number = (handovers[0]?.number ?? 0) + 1;
  const { contents, setContents, session, waiting } = useContents();
  const { plan, played, checks } = usePackagePlan(session, contents, number);
  const building = handovers.find((h) => h.state === 'building');
  const job = building ? jobs.find((j) => j.id === building.jobId) : undefined;
  const needed = (plan ? packageBytes(plan) : 0) + (played ? packageBytes(played) : 0);
  const blocked =
    checks.some((c) => c.state === 'stop') || building !== undefined || waiting || needed > view.freeBytes;
  const build = (): void => {
    if (!blocked) void store.getState().call(`/api/sessions/${view.id}/handovers`, { contents });
  };
  useShortcuts([{ key: 'enter', mod: true, run: build }]);
  const good = checks.filter((c) => c.state === 'good').length;
  const open = checks.filter((c) => c.state === 'look' || c.state === 'stop').length;
  const selected = handovers.find((h) => h.id === shown) ?? handovers.find((h) => h.state === 'done') ?? null;
  const changed = selected !== null && selected.revision !== view.revision;
  return (
    <section className="fm-split" aria-label="Handover">
      <div className="fm-pane">
        <header className="fm-stage-head">
          <h1>Handover</h1>
          <span>
            <b>{good}</b> of {good + open} checks hold
          </span>
          {open > 0 && (
            <span className="fm-attention">
              <b>{open}</b> to look at
            </span>
          )}
          <span className="fm-top-spring" />
          <Room needed={needed} free={view.freeBytes} />
          <ContentsChoice contents={contents} onChange={setContents} />
          <Button tone="main" disabled={blocked} onClick={build}>
            Build v{number} <Kbd>Ctrl ⏎</Kbd>
          </Button>
        </header>
        {building && (
          <div className="fm-stage-job">
            <Progress
              label={`Building and reading back v${building.number}`}
              share={job?.progress ?? null}
              onCancel={job && (() => void store.getState().call(`/api/jobs/${job.id}/cancel`))}
            />
          </div>
        )}
        <div className="fm-handover">
          <div className="fm-scroll fm-handover-checks">
            <h2>What the mixer can rely on</h2>
            {DOUBT_FIRST.flatMap((state) => checks.filter((c) => c.state === state)).map((c) => (
              <CheckRow key={`${c.code}-${c.title}`} check={c} sessionId={view.id} />
            ))}
          </div>
          <div
            className="fm-scroll fm-handover-files"
            tabIndex={0}
            role="region"
            aria-label="Files of the package"
          >
            <h2>What {selected && !changed ? 'is' : 'will be'} in the package</h2>
            {plan ? (
              <PackageTree
                plan={plan}
                played={played}
                title={selected && !changed ? selected.folderName : `v${number}`}
              />
            ) : (
              <p className="fm-faint">Nothing yet.</p>
            )}
          </div>
        </div>
      </div>
      <aside className="fm-panel" aria-label="Packages">
        <h2>Packages</h2>
        {handovers.length === 0 && (
          <p className="fm-faint">
            None built yet. Each one is written, read back and compared with its plan before it is offered.
          </p>
        )}
        {handovers.map((h) => (
          <HandoverCard
            key={h.id}
            handover={h}
            isShown={selected?.id === h.id}
            isCurrent={h.revision === view.revision}
            onShow={() => setShown(h.id)}
          />
        ))}
      </aside>
    </section>
  );
}

/** What the package will take and what is there: said before it is built. */
function Room({ needed, free }: { readonly needed: number; readonly free: number }) {
  const short = needed > free;
  return (
    <span className={short ? 'fm-attention' : 'fm-faint'}>
      {short && <Icon name="exclamation-triangle" />} {formatBytes(needed)}, {formatBytes(free)} free
    </span>
  );
}

function ContentsChoice({
  contents,
  onChange,
}: {
  readonly contents: Contents;
  readonly onChange: (c: Contents) => void;
}) {
  const { session, conform } = useSession((s) => s.view);
  if (!session.conform || !conform) return null;
  return (
    <>
      {contents !== 'played' && conform.ready.length < conform.wanted && (
        <span className="fm-attention">
          {conform.ready.length} of {conform.wanted} conformed
        </span>
      )}
      <label>
        Holds{' '}
        <Select
          isNarrow
          aria-label="What the package holds"
          value={contents}
          onChange={(e) => onChange(e.target.value as Contents)}
        >
          <option value="played">what was played</option>
          <option value="conformed">conformed to {session.conform.bpm}</option>
          <option value="both">both, side by side</option>
        </Select>
      </label>
    </>
  );
}

/** What the package is to hold: what is heard now, until one chooses; the choice stays. */
function useContents(): {
  readonly contents: Contents;
  readonly setContents: (c: Contents) => void;
  readonly session: SessionState;
  readonly waiting: boolean;
} {
  const { id, session: own, conform } = useSession((s) => s.view);
  const kept = useMemo(
    () => keptChoice(`fernmoss.holds.${id}`, ['heard', 'played', 'conformed', 'both']),
    [id],
  );
  const chosen = kept.use();
  const setContents = (next: Contents): void => kept.set(next);
  const contents = own.conform ? (chosen === 'heard' ? own.conform.heard : chosen) : 'played';
  const session = useMemo(() => (contents === 'played' ? own : asConformed(own)), [own, contents]);
  return {
    contents,
    setContents,
    session,
    waiting: contents !== 'played' && (conform?.ready.length ?? 0) < (conform?.wanted ?? 0),
  };
}

/** The plan of the next package and what holds of it. */
function usePackagePlan(
  session: SessionState,
  contents: Contents,
  number: number,
): {
  readonly plan: PackagePlan | null;
  readonly played: PackagePlan | null;
  readonly checks: readonly SessionCheck[];
} {
  const { session: own, style, recordings, conform } = useSession((s) => s.view);
  const { plan, played } = useMemo(() => {
    const byId = new Map(recordings.map((r) => [r.id, r]));
    const conformed = new Map((conform?.ready ?? []).map((c) => [c.laneId, c.lengthFrames]));
    const planOf = (
      of: SessionState,
      lengths: ReadonlyMap<string, number> | null,
      base?: string,
    ): PackagePlan | null => {
      const sources = soundTracks(of)
        .flatMap((track) => (lengths ? soundingLanes(track) : handedLanes(track, style)))
        .flatMap(({ id, recordingId }) => {
          const r = byId.get(recordingId);
          return r?.state === 'ready' && r.sessionFrames !== null && r.channels !== null
            ? [{ laneId: id, channels: r.channels, lengthFrames: lengths?.get(id) ?? r.sessionFrames }]
            : [];
        });
      const planned = planPackage(of, sources, style, `v${number}`, {
        worked: own,
        ...(base === undefined ? {} : { base }),
      });
      return planned.ok ? planned.value : null;
    };
    return {
      plan: planOf(session, contents === 'played' ? null : conformed),
      played: contents === 'both' ? planOf(own, null, PLAYED_BASE) : null,
    };
  }, [session, own, style, recordings, number, contents, conform]);
  const view = useSession((s) => s.view);
  const hits = useHits();
  const facts = useMemo(
    () => checkFactsOf(view, hits.size === 0 ? null : [...hits.values()], knownNames().read),
    [view, hits],
  );
  const checks = useMemo(() => checkSession(session, plan, facts), [session, plan, facts]);
  return { plan, played, checks };
}

const DOUBT_FIRST = ['stop', 'look', 'good', 'note'] as const;

function CheckRow({ check, sessionId }: { readonly check: SessionCheck; readonly sessionId: string }) {
  const mark = (
    {
      good: { name: 'check-lg', className: 'fm-good', label: 'holds' },
      note: { name: 'info-circle', className: 'fm-faint', label: 'good to know' },
      look: { name: 'exclamation-triangle', className: 'fm-attention', label: 'look at this' },
      stop: { name: 'slash-circle', className: 'fm-attention', label: 'stops the package' },
    } as const
  )[check.state];
  return (
    <div className="fm-check">
      <Icon {...mark} />
      <div className="fm-grow">
        {check.stage === null ? (
          <div>{check.title}</div>
        ) : (
          <Link href={`/sessions/${sessionId}/${check.stage}`}>{check.title}</Link>
        )}
        <div className="fm-faint">{check.detail}</div>
      </div>
      <span className="fm-mono fm-faint">{check.figure}</span>
    </div>
  );
}

interface Report {
  /** Pulses a minute; null or missing = as played. */
  readonly conformedTo?: number | null;
  readonly holdsPlayed?: boolean;
  readonly checks?: readonly {
    readonly code: string;
    readonly pass: boolean;
    readonly title: string;
    readonly figure: string;
  }[];
}

function HandoverCard({
  handover: h,
  isShown,
  isCurrent,
  onShow,
}: {
  readonly handover: HandoverView;
  readonly isShown: boolean;
  readonly isCurrent: boolean;
  readonly onShow: () => void;
}) {
  const store = useSessionStore();
  // Newest first.
  const copy = useSession((s) =>
    s.view.jobs.find((j) => j.kind === 'package.copy' && j.subject.startsWith(`v${h.number} `)),
  );
  const copying = copy && ['queued', 'running'].includes(copy.state) ? copy : null;
  const [choosing, setChoosing] = useState(false);
  const [reading, setReading] = useState(false);
  const { checks = [], conformedTo = null, holdsPlayed = false } = (h.report as Report | null) ?? {};
  return (
    <div className={`fm-card ${isShown ? 'is-here' : ''}`}>
      <Button tone="bare" className="fm-card-head" onClick={onShow} aria-expanded={isShown}>
        <b>v{h.number}</b>{' '}
        <span className="fm-faint fm-grow">
          {h.state === 'done'
            ? isCurrent
              ? 'as the session is now'
              : 'the session changed since'
            : h.state === 'building'
              ? 'being built'
              : h.state === 'removed'
                ? 'cleaned away'
                : 'not finished'}
        </span>{' '}
        {h.sizeBytes !== null && <span className="fm-mono">{formatBytes(h.sizeBytes)}</span>}
      </Button>
      {h.fault && <p className="fm-attention fm-below-1">{faultText(h.fault)}</p>}
      {isShown && h.state === 'done' && (
        <>
          <p className="fm-faint fm-below-1">
            {conformedTo === null
              ? 'Holds what was played.'
              : `Holds the recordings conformed to ${conformedTo}${holdsPlayed ? ', and beside them what was played' : ''}.`}
          </p>
          <ul className="fm-read-back">
            {checks.map((c) => (
              <li key={c.title}>
                <Icon
                  name={c.pass ? 'check-lg' : 'x-lg'}
                  className={c.pass ? 'fm-good' : 'fm-attention'}
                  label={c.pass ? 'holds' : 'fails'}
                />{' '}
                {c.title} <span className="fm-faint">{c.figure}</span>
              </li>
            ))}
          </ul>
          <a className="fm-main-button" href={`/api/handovers/${h.id}/package`} download>
            <Icon name="download" /> Download ZIP
          </a>
          <div className="fm-above-2">
            <Button onClick={() => setReading(true)}>Cover note …</Button>
          </div>
          <div className="fm-above-2">
            <Button onClick={() => setChoosing(true)}>
              <Icon name="folder-plus" /> Write to a folder …
            </Button>
          </div>
          {h.copies.map((c) => (
            <p key={c.path} className="fm-good fm-break fm-above-2 fm-tight">
              <Icon name="check-lg" /> also in <span className="fm-mono">{c.path}</span>, read back
            </p>
          ))}
          {copy?.state === 'failed' && copy.fault && (
            <p className="fm-attention fm-above-2 fm-tight" role="alert">
              {faultText(copy.fault)}
            </p>
          )}
          {copying && (
            <p className="fm-faint fm-above-2 fm-tight" role="status">
              Writing it to a folder · {formatPercent(copying.progress)}
            </p>
          )}
          {reading && (
            <CoverNoteDialog handoverId={h.id} number={h.number} onClose={() => setReading(false)} />
          )}
          {choosing && (
            <FolderDialog
              title={`Where v${h.number} is to go`}
              confirm="Write it here"
              use="packages can then be written there."
              onClose={() => setChoosing(false)}
              onChoose={(folder) => {
                setChoosing(false);
                void store.getState().call(`/api/handovers/${h.id}/copy`, { folder });
              }}
            />
          )}
          {h.folderPath !== null && (
            <div className="fm-above-2">
              <CopyButton text={h.folderPath}>Copy the path of the folder</CopyButton>
            </div>
          )}
        </>
      )}
    </div>
  );
}
