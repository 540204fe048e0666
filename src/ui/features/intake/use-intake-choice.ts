'use client';
import { useMemo, useState } from 'react';
import type { SessionView } from '@/contracts';
import type { Finding, FindingCode } from '@/core/findings';
import { findingsOf, selectOnly, useOwnDoubts, useSession, useSessionStore, workbench } from '@/ui/client';
import { type TableOrder, useShortcuts } from '@/ui/kit';
import { usePlayer } from '@/ui/listening';
import { foundRecordings, orderedRecordings, type RecordingColumn } from './recording-order';

/** A finding, by its code and whether it is put aside; or a recording, by its id. */
export type IntakeChoice = { readonly code: FindingCode; readonly aside: boolean } | string | null;

/** A finding on the list. */
export interface ListedFinding {
  readonly finding: Finding;
  readonly aside: boolean;
}

/** What is listed at Intake, and which line of it is in hand. */
export interface IntakeInHand {
  readonly findings: readonly ListedFinding[];
  readonly recordings: readonly SessionView['recordings'][number][];
  readonly finding: ListedFinding | null;
  readonly recording: SessionView['recordings'][number] | null;
  readonly search: string;
  readonly order: TableOrder<RecordingColumn> | null;
  choose(next: IntakeChoice): void;
  find(search: string): void;
  sort(order: TableOrder<RecordingColumn>): void;
}

const isSame = (a: IntakeChoice, b: IntakeChoice): boolean => JSON.stringify(a) === JSON.stringify(b);

/** The lines of Intake: choosing one by mouse or keys, searching, sorting. */
export function useIntakeChoice(showAside: boolean): IntakeInHand {
  const view = useSession((s) => s.view);
  const store = useSessionStore();
  const player = usePlayer();
  const [choice, setChoice] = useState<IntakeChoice>(null);
  const [search, find] = useState('');
  const [order, sort] = useState<TableOrder<RecordingColumn> | null>(null);
  const { open, dismissed } = findingsOf(view);
  const findings = [
    ...open.map((finding) => ({ finding, aside: false })),
    ...(showAside ? dismissed.map((finding) => ({ finding, aside: true })) : []),
  ];
  const recordings = useMemo(() => {
    const sound = view.recordings.filter((r) => r.fault?.code !== 'file.no_recording');
    return orderedRecordings(foundRecordings(sound, search), order);
  }, [view.recordings, search, order]);
  const choose = useMemo(
    () =>
      (next: IntakeChoice): void => {
        setChoice(next);
        const { nodes } = store.getState().view.session;
        const track = Object.values(nodes).find((n) => n.kind === 'track' && n.recordingId === next);
        selectOnly(track?.id ?? null);
      },
    [store],
  );
  const lines: IntakeChoice[] = [
    ...findings.map(({ finding, aside }) => ({ code: finding.code, aside })),
    ...recordings.filter((r) => r.state === 'ready').map((r) => r.id),
  ];
  const step = (by: number): void => {
    const at = lines.findIndex((l) => isSame(l, choice));
    const next = lines[Math.max(0, Math.min(lines.length - 1, at < 0 ? 0 : at + by))];
    if (next !== undefined) choose(next);
  };
  const toCheck = open.filter((f) => f.severity !== 'note').map(({ code }) => ({ code, aside: false }));
  const nextToCheck = (): void => {
    const at = toCheck.findIndex((f) => isSame(f, choice));
    choose(toCheck[(at + 1) % toCheck.length] ?? null);
  };
  useShortcuts([
    { key: 'arrowdown', run: () => step(1) },
    { key: 'arrowup', run: () => step(-1) },
    { key: 'escape', run: () => choose(null) },
    {
      key: 's',
      run: () => {
        const { current } = workbench.getState();
        if (current) player.toggleSolo(new Set([current]));
      },
    },
  ]);
  useOwnDoubts(toCheck.length > 0 ? nextToCheck : null);
  const isFinding = typeof choice === 'object' && choice !== null;
  return {
    findings,
    recordings,
    finding: isFinding
      ? (findings.find((l) => l.finding.code === choice.code && l.aside === choice.aside) ?? null)
      : null,
    recording: view.recordings.find((r) => r.id === choice && r.state === 'ready') ?? null,
    ...{ search, order, choose, find, sort },
  };
}
