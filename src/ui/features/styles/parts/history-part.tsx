'use client';
import Link from 'next/link';
import { useState } from 'react';
import { type Fault, faultText, type StyleView } from '@/contracts';
import { compareStyles, type HouseStyle, type StyleDifference } from '@/core/style';
import { api, faultOf } from '@/ui/client';
import { Button } from '@/ui/kit';
import { DifferenceTable } from '../compare-dialog';

/** Every version with why it was made, who follows it, what it changed, and the way back to it. */
export function HistoryPart({
  kept,
  onTake,
}: {
  readonly kept: StyleView;
  readonly onTake: (style: HouseStyle) => void;
}) {
  const [open, setOpen] = useState<{
    readonly version: number;
    readonly differences: readonly StyleDifference[];
  } | null>(null);
  const [fault, setFault] = useState<Fault | null>(null);
  const one = async (version: number): Promise<HouseStyle> =>
    (await api<StyleView>(`/api/styles/${kept.id}?version=${version}`)).style;
  const show = async (version: number): Promise<void> => {
    if (open?.version === version) return setOpen(null);
    try {
      const [a, b] = await Promise.all([one(version - 1), one(version)]);
      setOpen({ version, differences: compareStyles(a, b) });
    } catch (cause) {
      setFault(faultOf(cause));
    }
  };
  return (
    <>
      <p className="fm-faint">
        A version never changes. Taking an earlier one over brings what it says into this draft, to be saved
        as the next.
      </p>
      {fault && (
        <p className="fm-attention" role="alert">
          {faultText(fault)}
        </p>
      )}
      <table className="fm-table">
        <thead>
          <tr>
            <th>Version</th>
            <th>Saved</th>
            <th>Why</th>
            <th>Followed by</th>
            <th>
              <span className="fm-unseen">What can be done</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {kept.versions.flatMap((v) => [
            <tr key={v.version}>
              <td>
                v{v.version}
                {v.version === kept.version ? <span className="fm-faint"> now</span> : null}
              </td>
              <td>
                <time dateTime={v.at} suppressHydrationWarning>
                  {new Date(v.at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })}
                </time>
              </td>
              <td>{v.note || <span className="fm-faint">nothing said</span>}</td>
              <td>
                {v.sessions.length === 0 ? (
                  <span className="fm-faint">no session</span>
                ) : (
                  v.sessions.map((s, i) => (
                    <span key={s.id}>
                      {i > 0 ? ', ' : ''}
                      <Link href={`/sessions/${s.id}/sort`}>{s.name}</Link>
                    </span>
                  ))
                )}
              </td>
              <td className="fm-end">
                {v.version > 1 && (
                  <Button
                    tone="quiet"
                    aria-expanded={open?.version === v.version}
                    onClick={() => void show(v.version)}
                  >
                    What it changed
                  </Button>
                )}
                {v.version !== kept.version && (
                  <Button
                    tone="quiet"
                    onClick={() =>
                      void one(v.version).then(onTake, (cause: unknown) => setFault(faultOf(cause)))
                    }
                  >
                    Take over
                  </Button>
                )}
              </td>
            </tr>,
            ...(open?.version === v.version
              ? [
                  <tr key={`${v.version} open`}>
                    <td colSpan={5}>
                      {open.differences.length === 0 ? (
                        <span className="fm-faint">nothing that is seen</span>
                      ) : (
                        <DifferenceTable differences={open.differences} />
                      )}
                    </td>
                  </tr>,
                ]
              : []),
          ])}
        </tbody>
      </table>
    </>
  );
}
