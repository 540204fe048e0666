'use client';
import { faultText, type JobView } from '@/contracts';
import { isSectionName } from '@/core/sections';
import { isTrack } from '@/core/session';
import { useGoOn, useOwnDoubts, useSession, useSessionStore, useSongMap } from '@/ui/client';
import { Button, Kbd, Notice, Progress, useShortcuts } from '@/ui/kit';
import { SectionsPanel } from './sections-panel';
import { SectionsStrip } from './sections-strip';
import { SectionsTable } from './sections-table';
import { KIND_KEYS } from './kind-keys';
import { type Sections, type SectionTools, useSections, useSectionTools } from './use-sections';

/** A phrase, as most songs have it, bars. */
const PHRASE_BARS = 4;

/** The song's parts: found by itself, used as one step, walked through and worked on by ear. */
export function SectionsStage() {
  const hasTracks = useSession((s) => Object.values(s.view.session.nodes).some(isTrack));
  return hasTracks ? <Parts /> : <NoTracks />;
}

function Parts() {
  const store = useSessionStore();
  const sessionId = useSession((s) => s.view.id);
  const job = useSession((s) => s.view.jobs.find((j) => j.kind === 'sections.find'));
  const isFinding = job?.state === 'queued' || job?.state === 'running';
  const sections = useSections();
  const tools = useSectionTools(sections);
  const goOn = useGoOn('handover');
  const find = (): void => void store.getState().call(`/api/sessions/${sessionId}/sections`);
  const { rows, isNewer } = sections;
  const next = nextOf(sections);
  const runMain = (): void => {
    if (!isFinding) ({ find, accept: sections.accept, 'go on': goOn })[next]();
  };
  const doubts = rows.filter((r) => r.doubt !== null);
  useOwnDoubts(() => {
    const at = sections.current ? rows.indexOf(sections.current) : -1;
    const row = rows.find((r, i) => i > at && r.doubt !== null) ?? doubts[0];
    if (row) sections.select(row.id);
  });
  useSectionKeys(sections, tools, runMain);
  return (
    <section className="fm-split" aria-label="Sections">
      <div className="fm-pane">
        <header className="fm-stage-head">
          <h1>Sections</h1>
          <div className="fm-head-note">
            {isFinding ? <Finding job={job} /> : <HowMany sections={sections} doubts={doubts.length} />}
          </div>
          {(rows.length > 0 || sections.found !== null) && (
            <Button disabled={isFinding} onClick={find}>
              Find again
            </Button>
          )}
          <Button tone="main" disabled={isFinding} onClick={runMain}>
            {NEXT_WORDS[next]} <Kbd>Ctrl ⏎</Kbd>
          </Button>
        </header>
        {job?.state === 'failed' && job.fault && (
          <Notice tone="danger" className="fm-tight">
            No sections were found. {faultText(job.fault)}
          </Notice>
        )}
        {isNewer && <Newer sections={sections} />}
        <Notes sections={sections} />
        {rows.length > 0 ? (
          <>
            <SectionsStrip sections={sections} />
            <SectionsTable sections={sections} />
          </>
        ) : (
          <NothingYet isLooked={sections.found !== null} />
        )}
      </div>
      <SectionsPanel sections={sections} tools={tools} />
    </section>
  );
}

type Next = 'find' | 'accept' | 'go on';
const NEXT_WORDS: Readonly<Record<Next, string>> = {
  find: 'Find the sections',
  accept: 'Use these',
  'go on': 'On to Handover',
};
const nextOf = ({ found, isOwn, isProposed }: Sections): Next =>
  isProposed ? 'accept' : isOwn || found !== null ? 'go on' : 'find';

function Finding({ job }: { readonly job: JobView }) {
  const store = useSessionStore();
  return (
    <span className="fm-tidy-progress">
      <Progress
        label="Finding the sections"
        share={job.progress}
        onCancel={() => void store.getState().call(`/api/jobs/${job.id}/cancel`)}
      />
    </span>
  );
}

function useSectionKeys(sections: Sections, tools: SectionTools, onMain: () => void): void {
  useShortcuts([
    { key: 'enter', mod: true, run: onMain },
    { key: 'arrowdown', run: () => sections.step(1) },
    { key: 'arrowup', run: () => sections.step(-1) },
    { key: 'arrowright', shift: false, run: () => tools.walk(1) },
    { key: 'arrowleft', shift: false, run: () => tools.walk(-1) },
    { key: 'arrowright', shift: true, run: () => tools.walk(PHRASE_BARS) },
    { key: 'arrowleft', shift: true, run: () => tools.walk(-PHRASE_BARS) },
    { key: 'm', run: tools.drop },
    { key: 'j', run: tools.join },
    { key: 'delete', run: tools.join },
    { key: 'backspace', run: tools.join },
    { key: 'r', run: tools.repeat },
    { key: ',', run: () => tools.begin(-1) },
    { key: '.', run: () => tools.begin(1) },
    { key: '[', run: () => tools.shift(-1) },
    { key: ']', run: () => tools.shift(1) },
    ...KIND_KEYS.map(([key, kind]) => ({ key, shift: false, run: () => tools.call(kind) })),
  ]);
}

function HowMany({
  sections: { rows, isOwn, isProposed },
  doubts,
}: {
  readonly sections: Sections;
  readonly doubts: number;
}) {
  if (!isOwn && !isProposed) return null;
  const count = isProposed ? rows.length : rows.filter((r) => isSectionName(r.name)).length;
  return (
    <>
      <span>
        <b>{count}</b> {count === 1 ? 'section' : 'sections'} {isProposed && 'found, not used yet'}
      </span>
      {doubts > 0 && (
        <span className="fm-attention">
          <b>{doubts}</b> to check <Kbd>N</Kbd>
        </span>
      )}
    </>
  );
}

/** Something else was found than the song has. */
function Newer({ sections: { found, accept, keep } }: { readonly sections: Sections }) {
  return (
    <Notice tone="warning" className="fm-tight" onClose={keep}>
      Found again: {found?.sections.length} sections, other than the song has.{' '}
      <Button tone="quiet" onClick={accept}>
        Use what was found instead
      </Button>
    </Notice>
  );
}

/** On what the sections lie, where that is not the map in force. */
function Notes({ sections: { found, isProposed, isOfFormerMap } }: { readonly sections: Sections }) {
  const map = useSongMap();
  if (!map)
    return (
      <p className="fm-over-hand" role="note">
        No map yet: sections are found and set in time, not on bar lines. With one they are surer.
      </p>
    );
  return isProposed && isOfFormerMap && found ? (
    <p className="fm-over-hand" role="note">
      These were found on another map than the session has now: find them again.
    </p>
  ) : null;
}

function NothingYet({ isLooked }: { readonly isLooked: boolean }) {
  return (
    <div className="fm-empty">
      <p>{isLooked ? 'No sections were found.' : 'No sections yet.'}</p>
      <p className="fm-faint">
        {isLooked
          ? 'Nothing sounds between the bar lines of the map. '
          : 'Where the song goes on to something else is found from what all tracks play. '}
        <Kbd>M</Kbd> begins one by hand, at the bar line next to the position.
      </p>
    </div>
  );
}

function NoTracks() {
  const sessionId = useSession((s) => s.view.id);
  return (
    <section className="fm-pane" aria-label="Sections">
      <header className="fm-stage-head">
        <h1>Sections</h1>
      </header>
      <div className="fm-empty">
        <p>No recordings yet.</p>
        <p className="fm-faint">The song’s parts are found from what its tracks play.</p>
        <a className="fm-button" href={`/sessions/${sessionId}/intake`}>
          Go to Intake
        </a>
      </div>
    </section>
  );
}
