'use client';
import { keepSamplesEdits, keptRecordings, rateEdits, repitch } from '@/core/session';
import { useSession, useSessionStore } from '@/ui/client';
import { formatRate, formatRepitch, RadioButton, Select } from '@/ui/kit';

/** Rates that sessions usually have, Hz (common practice, no source). */
const USUAL_HZ = [44_100, 48_000, 88_200, 96_000, 176_400, 192_000] as const;

/** The rates of a delivery and what can be done about them: take another rate, and convert what differs or let its samples play as they are. */
export function RateChoices() {
  const store = useSessionStore();
  const { session, recordings, jobs } = useSession((s) => s.view);
  const rate = session.sampleRateHz;
  const ready = recordings.filter(
    (r): r is typeof r & { sampleRateHz: number } => r.state === 'ready' && r.sampleRateHz !== null,
  );
  const counts = new Map<number, number>();
  for (const r of ready) counts.set(r.sampleRateHz, (counts.get(r.sampleRateHz) ?? 0) + 1);
  const rates = [...counts].sort((a, b) => b[1] - a[1]);
  const others = [...new Set([...USUAL_HZ, ...(rate === null ? [] : [rate])])]
    .filter((hz) => !counts.has(hz))
    .sort((a, b) => a - b);
  const setRate = (hz: number): void =>
    void store.getState().commit(`Session at ${formatRate(hz)} kHz`, rateEdits(session, hz));
  const kept = keptRecordings(session);
  const converting = jobs.filter(
    (j) => j.kind === 'recording.convert' && (j.state === 'queued' || j.state === 'running'),
  ).length;
  return (
    <>
      <fieldset className="fm-rates">
        <legend>Rate of the session</legend>
        {rates.map(([hz, count]) => (
          <label key={hz} className="fm-rate">
            <RadioButton name="session-rate" checked={hz === rate} onChange={() => setRate(hz)} />
            <span>
              <b>{formatRate(hz)} kHz</b>: as {count} {count === 1 ? 'file was' : 'files were'} recorded
            </span>
          </label>
        ))}
        <label className="fm-rate">
          <span>{rates.length === 0 ? 'Before anything arrives' : 'Another'}</span>
          <Select
            isNarrow
            aria-label="Another rate"
            value={rate !== null && !counts.has(rate) ? rate : ''}
            onChange={(e) => {
              if (e.target.value !== '') setRate(Number(e.target.value));
            }}
          >
            <option value="">{rates.length === 0 ? 'that of most files' : 'choose'}</option>
            {others.map((hz) => (
              <option key={hz} value={hz}>
                {formatRate(hz)} kHz
              </option>
            ))}
          </Select>
        </label>
      </fieldset>
      {rate !== null &&
        rates
          .filter(([hz]) => hz !== rate)
          .map(([hz, count]) => {
            const ids = new Set(ready.filter((r) => r.sampleRateHz === hz).map((r) => r.id));
            const some = [...ids].filter((id) => kept.has(id)).length;
            const choose = (keep: boolean) => (): void =>
              void store
                .getState()
                .commit(
                  keep
                    ? `Keep the samples of ${count} ${count === 1 ? 'file' : 'files'}`
                    : `Convert ${count} ${count === 1 ? 'file' : 'files'}`,
                  keepSamplesEdits(session, ids, keep),
                );
            return (
              <fieldset key={hz} className="fm-rates">
                <legend>
                  {count === 1 ? 'The one' : `The ${count}`} at {formatRate(hz)} kHz
                </legend>
                <label className="fm-rate">
                  <RadioButton name={`keep-${hz}`} checked={some === 0} onChange={choose(false)} />
                  <span>
                    <b>Convert</b>: same length, same pitch
                  </span>
                </label>
                <label className="fm-rate">
                  <RadioButton name={`keep-${hz}`} checked={some === ids.size} onChange={choose(true)} />
                  <span>
                    <b>Keep the samples</b>: {formatRepitch(repitch(hz, rate))}
                  </span>
                </label>
                {some > 0 && some < ids.size && (
                  <p className="fm-faint fm-tight">
                    {some} of them {some === 1 ? 'keeps' : 'keep'} their samples.
                  </p>
                )}
              </fieldset>
            );
          })}
      <p className="fm-faint fm-tight" aria-live="polite">
        {converting > 0
          ? `${converting} being made ready.`
          : 'Originals are kept; places in time and the tempo map stay.'}
      </p>
    </>
  );
}
