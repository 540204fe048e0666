'use client';
import { useEffect, useState } from 'react';
import { type Fault, faultText, type StyleListItem, type StyleView } from '@/contracts';
import { compareStyles, type StyleDifference } from '@/core/style';
import { api, faultOf } from '@/ui/client';
import { Dialog, Labelled, Line, Select } from '@/ui/kit';

/** What leads from one style, or one version of it, to another. */
export function CompareDialog({
  styles,
  from,
  onHide,
}: {
  readonly styles: readonly StyleListItem[];
  readonly from?: { readonly id: string; readonly version: number };
  readonly onHide: () => void;
}) {
  const choices = styles.flatMap((s) =>
    s.versions.map((v) => ({ value: `${s.id} ${v.version}`, label: `${s.name} v${v.version}` })),
  );
  const [before, setBefore] = useState(
    from ? `${from.id} ${from.version}` : (choices[1]?.value ?? choices[0]?.value ?? ''),
  );
  const [after, setAfter] = useState(choices[0]?.value ?? '');
  const [found, setFound] = useState<readonly StyleDifference[] | null>(null);
  const [fault, setFault] = useState<Fault | null>(null);
  useEffect(() => {
    let stale = false;
    const fetchOne = (value: string): Promise<StyleView> => {
      const [id, version] = value.split(' ');
      return api<StyleView>(`/api/styles/${id}?version=${version}`);
    };
    Promise.all([fetchOne(before), fetchOne(after)]).then(
      ([a, b]) => {
        if (!stale) setFound(compareStyles(a.style, b.style));
      },
      (cause: unknown) => setFault(faultOf(cause)),
    );
    return () => {
      stale = true;
    };
  }, [before, after]);
  const select = (label: string, value: string, set: (v: string) => void) => (
    <Labelled className="fm-grow" id={`compare-${label}`} label={label}>
      <Select value={value} onChange={(e) => set(e.target.value)}>
        {choices.map((c) => (
          <option key={c.value} value={c.value}>
            {c.label}
          </option>
        ))}
      </Select>
    </Labelled>
  );
  return (
    <Dialog title="Compare two house styles" isWide scrolls onClose={onHide}>
      <Line gap={3} align="start" className="fm-below-3">
        {select('From', before, setBefore)}
        {select('To', after, setAfter)}
      </Line>
      {fault && (
        <p className="fm-attention" role="alert">
          {faultText(fault)}
        </p>
      )}
      {found &&
        (found.length === 0 ? (
          <p className="fm-faint" role="status">
            These two say the same.
          </p>
        ) : (
          <DifferenceTable differences={found} />
        ))}
    </Dialog>
  );
}

/** Differences by part. */
export function DifferenceTable({ differences }: { readonly differences: readonly StyleDifference[] }) {
  return (
    <table className="fm-table">
      <thead>
        <tr>
          <th>Part</th>
          <th>What differs</th>
        </tr>
      </thead>
      <tbody>
        {differences.map((d, i) => (
          <tr key={`${d.part}${d.text}`}>
            <td>{differences[i - 1]?.part === d.part ? '' : d.part}</td>
            <td className="fm-break">{d.text}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
