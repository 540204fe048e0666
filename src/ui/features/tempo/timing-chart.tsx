'use client';
import {
  Bar,
  BarChart,
  CartesianGrid,
  ReferenceLine,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from 'recharts';
import { CHART_HEIGHT } from './timing';
import { formatMs } from '@/ui/kit';

/** How many hits lie how far from the grid. */
export function TimingChart({
  bins,
}: {
  readonly bins: readonly { readonly ms: number; readonly hits: number }[];
}) {
  return (
    <ResponsiveContainer width="100%" height={CHART_HEIGHT}>
      <BarChart data={[...bins]} margin={{ top: 6, right: 4, bottom: 0, left: -24 }} barCategoryGap={1}>
        <CartesianGrid vertical={false} stroke="var(--fm-lines)" />
        <XAxis
          dataKey="ms"
          type="number"
          domain={[-50, 50]}
          ticks={[-40, -20, 0, 20, 40]}
          tick={{ fill: 'var(--fm-muted)', fontSize: 12 }}
          tickFormatter={(ms: number) => (ms > 0 ? `+${ms}` : String(ms).replace('-', '−'))}
          stroke="var(--fm-lines)"
        />
        <YAxis
          tick={{ fill: 'var(--fm-muted)', fontSize: 12 }}
          allowDecimals={false}
          stroke="var(--fm-lines)"
        />
        <ReferenceLine x={0} stroke="var(--fm-ink)" />
        <Tooltip
          cursor={{ fill: 'var(--fm-sunk)' }}
          contentStyle={{
            background: 'var(--bs-body-bg)',
            border: '1px solid var(--fm-lines)',
            fontSize: 13,
          }}
          labelFormatter={(ms) => `around ${formatMs(Number(ms) / 1000)}`}
          formatter={(n) => [String(n), 'hits']}
        />
        <Bar dataKey="hits" fill="var(--fm-lake)" isAnimationActive={false} />
      </BarChart>
    </ResponsiveContainer>
  );
}
