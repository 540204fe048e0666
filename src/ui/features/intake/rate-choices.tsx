'use client';
import { rateEdits } from '@/core/session';
import { useSession, useSessionStore } from '@/ui/client';
import { formatRate } from '@/ui/kit';

/** The rates of a delivery and what the session can do about them: convert what differs, or take another rate itself. */
export function RateChoices() {
  const store = useSessionStore();
  const { session, recordings, jobs } = useSession((s) => s.view);
  const rate = session.sampleRateHz;
  const counts = new Map<number, number>();
  for (const r of recordings) if (r.state === 'ready' && r.sampleRateHz !== null) counts.set(r.sampleRateHz, (counts.get(r.sampleRateHz) ?? 0) + 1);
  const converting = jobs.filter((j) => j.kind === 'recording.convert' && (j.state === 'queued' || j.state === 'running')).length;
  return (
    <fieldset className="fm-rates">
      <legend>Rate of the session</legend>
      {[...counts].sort((a, b) => b[1] - a[1]).map(([hz, count]) => {
        const others = [...counts].reduce((n, [other, c]) => n + (other === hz ? 0 : c), 0);
        return (
          <label key={hz} className="fm-rate">
            <input type="radio" className="form-check-input" name="session-rate" checked={hz === rate} onChange={() => store.getState().commit(`Session at ${formatRate(hz)} kHz`, rateEdits(session, hz))} />
            <span><b>{formatRate(hz)} kHz</b>: as {count} {count === 1 ? 'file was' : 'files were'} recorded; {others} {others === 1 ? 'is' : 'are'} converted</span>
          </label>
        );
      })}
      <p className="fm-faint mb-0" aria-live="polite">{converting > 0 ? `${converting} being converted.` : 'Originals are kept; times and the tempo map stay.'}</p>
    </fieldset>
  );
}
