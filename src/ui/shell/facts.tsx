'use client';
import Link from 'next/link';
import { type ReactNode, useLayoutEffect, useRef, useState } from 'react';
import type { SessionView } from '@/contracts';
import { asPlayedBack, playbackWarp } from '@/core/conform';
import { pulseQuarters, type SongMapFile } from '@/core/time';
import { songSeconds, useSession } from '@/ui/client';
import { Button, formatRate, Icon, Panel, useClock, useElementSize, type WriteClock } from '@/ui/kit';

/** Something known of the song, and where it comes from or is changed: a stage, or what is said of the song. */
interface Fact {
  readonly name: string;
  readonly value: string;
  readonly unit: string;
  readonly stage: 'intake' | 'tempo' | null;
}

/** What has no room falls away from the end: the tempo, which is in hand most, comes first. */
function factsOf(view: SessionView, clock: WriteClock): Fact[] {
  const session = asPlayedBack(view.session);
  const warp = playbackWarp(view.session);
  const played = songSeconds(view.session, view.recordings);
  const length = warp ? warp.toConformed(played) : played;
  const depths = [...new Set(view.recordings.map((r) => r.bitDepth).filter((d) => d !== null))];
  const tempo = session.mapFacts?.bpm ?? (session.map ? averageTempo(session.map) : null);
  const how = warp ? 'conformed' : session.mapFacts?.steady ? 'steady' : 'as played';
  const fact = (name: string, value: string | null, unit: string, stage: Fact['stage']): Fact[] =>
    value === null ? [] : [{ name, value, unit, stage }];
  return [
    ...fact('Tempo', tempo === null ? null : tempo.toFixed(1), `BPM ${how}`, 'tempo'),
    ...fact('Rate', session.sampleRateHz === null ? null : formatRate(session.sampleRateHz), 'kHz', 'intake'),
    ...fact('Key', view.session.key || null, '', null),
    ...fact('Length', length > 0 ? clock(length, 0) : null, '', 'intake'),
    ...fact(
      'Depth',
      depths.length === 0 ? null : String(depths.length === 1 ? depths[0] : 'mixed'),
      depths.length === 1 ? 'bit' : 'depths',
      'intake',
    ),
  ];
}

/** What is known of the song; each opens where it comes from or is changed. What has no room is behind a button. */
export function Facts({ onDescribe }: { readonly onDescribe: () => void }) {
  const view = useSession((s) => s.view);
  const facts = factsOf(view, useClock());
  const row = useRef<HTMLDivElement>(null);
  const { width } = useElementSize(row);
  const [isCut, setCut] = useState(false);
  const words = facts.map((f) => f.value + f.unit).join();
  useLayoutEffect(() => {
    const all = [...(row.current?.children ?? [])] as HTMLElement[];
    const isBelow = (e: HTMLElement): boolean => e.offsetTop > (all[0]?.offsetTop ?? 0) + 4;
    // What fell into the hidden line is not there for the keyboard either.
    for (const e of all) e.style.visibility = isBelow(e) ? 'hidden' : '';
    setCut(all.some(isBelow));
  }, [width, words]);
  const way = (f: Fact, children: ReactNode): ReactNode =>
    f.stage === null ? (
      <Button key={f.name} tone="bare" title={`${f.name}: change it`} onClick={onDescribe}>
        {children}
      </Button>
    ) : (
      <Link
        key={f.name}
        href={`/sessions/${view.id}/${f.stage}`}
        title={`${f.name}: at ${f.stage === 'tempo' ? 'Tempo' : 'Intake'}`}
      >
        {children}
      </Link>
    );
  const shown = ({ value, unit }: Fact): ReactNode => (
    <>
      <b>{value}</b>
      {unit !== '' && <span>{unit}</span>}
    </>
  );
  return (
    <>
      <div className="fm-facts" ref={row}>
        {facts.map((f) => way(f, shown(f)))}
      </div>
      {isCut && (
        <Panel label="All facts of the song" button={<Icon name="list" />}>
          <dl className="fm-facts-list">
            {facts.map((f) => (
              <div key={f.name}>
                <dt>{f.name}</dt>
                <dd>{way(f, shown(f))}</dd>
              </div>
            ))}
          </dl>
        </Panel>
      )}
    </>
  );
}

/** Pulses a minute over the whole map. */
const averageTempo = ({ points, meters }: SongMapFile): number | null => {
  const [a, b, first] = [points[0], points.at(-1), meters[0]];
  return a && b && first && b.seconds > a.seconds
    ? (60 * (b.quarters - a.quarters)) / (b.seconds - a.seconds) / pulseQuarters(first)
    : null;
};
