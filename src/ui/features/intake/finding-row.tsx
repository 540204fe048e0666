'use client';
import { type Finding, findingDetail, findingTitle, type Severity } from '@/core/findings';
import { Button, Icon, type IconName } from '@/ui/kit';

const WORDS: Readonly<Record<Severity, readonly [icon: IconName, word: string]>> = {
  problem: ['exclamation-octagon-fill', 'problem'],
  check: ['exclamation-triangle', 'look'],
  note: ['info-circle', 'note'],
};

/** How much a finding matters, as a sign and a word. */
export function SeverityMark({ severity }: { readonly severity: Severity }) {
  const [icon, word] = WORDS[severity];
  return (
    <span className={severity === 'note' ? 'fm-faint' : 'fm-attention'}>
      <Icon name={icon} /> {word}
    </span>
  );
}

/** One finding: what, how often, and in which files. */
export function FindingRow({
  finding,
  here,
  nameOf,
  onSelect,
}: {
  readonly finding: Finding;
  readonly here: boolean;
  readonly nameOf: (id: string) => string;
  readonly onSelect: () => void;
}) {
  const [first] = finding.files;
  const detail = finding.files.length === 1 && first ? findingDetail(finding.code, first) : '';
  const names = finding.files
    .map((p) => (p.other === null ? nameOf(p.id) : `${nameOf(p.other)} · ${nameOf(p.id)}`))
    .join(', ');
  return (
    <Button
      tone="bare"
      className={`fm-finding ${here ? 'is-here' : ''}`}
      aria-pressed={here}
      onClick={onSelect}
    >
      <span className="fm-finding-mark">
        <SeverityMark severity={finding.severity} />
      </span>
      <b className="fm-finding-title">{findingTitle(finding.code)}</b>
      <span className="fm-finding-files fm-truncate">
        {detail ? `${detail} · ` : null}
        <span className="fm-faint">{names}</span>
      </span>
      <span className="num">{finding.files.length > 1 ? `${finding.files.length} files` : ''}</span>
    </Button>
  );
}
