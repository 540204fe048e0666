'use client';
import { Button, Kbd, Menu, type MenuItem, Tabs } from '@/ui/kit';
import { someNames } from './some-names';
import type { SortView } from './sort-views';
import type { ProposalInHand } from './use-proposal';

const VIEWS = [
  ['tracks', 'Tracks'],
  ['routing', 'Routing'],
  ['takes', 'Takes'],
] as const;

/** What the main button leads to. */
export interface NextStep {
  readonly kind: 'apply' | 'assign' | 'go-on' | 'none';
  readonly text: string;
}

/** The head of Sort: which view, how sure the proposals are, and what is next. */
export function SortHead({
  view,
  onView,
  astray,
  takes,
  inHand,
  menu,
  quick,
  onQuick,
  toAssign,
  main,
  onMain,
}: {
  readonly view: SortView;
  readonly onView: (to: SortView) => void;
  /** Tracks the routing says something of. */
  readonly astray: number;
  /** Of takes: what is open. */
  readonly takes: number;
  readonly inHand: ProposalInHand;
  readonly menu: readonly MenuItem[];
  readonly quick: boolean;
  readonly onQuick: () => void;
  readonly toAssign: number;
  readonly main: NextStep;
  readonly onMain: () => void;
}) {
  const { heard } = inHand;
  return (
    <header className="fm-stage-head">
      <h1>Sort</h1>
      <Tabs
        label="View"
        tabs={VIEWS.map(([key, label]) => ({
          key,
          label: (
            <>
              {label}
              <OpenCount count={{ tracks: 0, routing: astray, takes }[key]} />
            </>
          ),
        }))}
        chosen={view}
        onChoose={onView}
      >
        {' '}
        <Kbd>B</Kbd>
      </Tabs>
      <HowSure inHand={inHand} />
      <span className="fm-top-spring" />
      <Menu label="Rows" items={menu} />
      {heard.length > 0 && (
        <Button
          tone="quiet"
          title={`Take what was heard for what they are: ${someNames(heard.map((r) => r.name))}. Their names say nothing`}
          onClick={inHand.acceptHeard}
        >
          Accept {heard.length} heard <Kbd>⇧Y</Kbd>
        </Button>
      )}
      {offersQuick(toAssign, quick, heard.length > 0 || main.kind === 'assign') && (
        <Button
          tone="quiet"
          isOn={quick}
          title="Hear the doubtful tracks one after the other; a digit says what each is"
          onClick={onQuick}
        >
          Quick assign <Kbd>Q</Kbd>
        </Button>
      )}
      <Button
        tone="main"
        disabled={main.kind === 'none' || (main.kind === 'assign' && quick)}
        onClick={onMain}
      >
        {main.text} <Kbd>Ctrl ⏎</Kbd>
      </Button>
    </header>
  );
}

/** How much of a view is open. */
const OpenCount = ({ count }: { readonly count: number }) =>
  count > 0 ? <span className="fm-attention"> {count}</span> : null;

/** What is next: applying; where nothing certain is left, the doubtful ones by ear; else the next stage. */
export function nextStep(inHand: ProposalInHand, toAssign: number, trackCount: number): NextStep {
  const { names, canApply, open } = inHand;
  if (names !== 'read') return { kind: 'none', text: READING[names] };
  if (!canApply && open.length === 0 && trackCount > 0) return { kind: 'go-on', text: 'On to Tidy' };
  if (canApply) return { kind: 'apply', text: applyText(inHand) };
  if (toAssign > 0) return { kind: 'assign', text: `Quick assign ${toAssign}` };
  return { kind: 'none', text: applyText(inHand) };
}

/** What the main button applies: rows, else the sums that are left. */
function applyText({ open, ticked, proposal: { sums } }: ProposalInHand): string {
  if (open.length > 0) return `Apply ${ticked.length} of ${open.length}`;
  return sums.length === 0
    ? 'Nothing to apply'
    : `Apply to ${sums.length} ${sums.length === 1 ? 'sum' : 'sums'}`;
}

/** While the worker has not read the names. */
const READING = { reading: 'Reading the names …', failed: 'Names not read, trying again' } as const;

/** How sure the proposals are, as a whole. */
function HowSure({ inHand }: { readonly inHand: ProposalInHand }) {
  const { names, doubtful, unmatched } = inHand;
  // The main button says what it waits for.
  if (names !== 'read') return null;
  if (doubtful + unmatched === 0)
    return (
      <span>
        all <b>{inHand.proposal.rows.length}</b> certain
      </span>
    );
  return (
    <span className="fm-attention" title={`${doubtful} proposals to check, ${unmatched} that no rule met`}>
      {doubtful === 0
        ? `${unmatched} no rule`
        : `${doubtful}${unmatched > 0 ? ` + ${unmatched}` : ''} to check`}{' '}
      <Kbd>N</Kbd>
    </span>
  );
}

/** Whether quick assign has a button of its own: not beside another that offers the same tracks. */
const offersQuick = (toAssign: number, isOn: boolean, isOffered: boolean): boolean =>
  toAssign > 0 && (isOn || !isOffered);
