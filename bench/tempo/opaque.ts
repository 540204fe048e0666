import { kindKnown } from '@/core/style';
import { describeReading, detectTempo, type TempoTrack } from '@/core/tempo';
import { heardSessions, type OpaqueSession, TEMPO_CACHE } from './features';
import { NO_ESTIMATE, score, type Score } from './metrics';

// Detection over sessions whose names say nothing: by what is heard of each track, beside the same with good names and the same without an ear.
const ROUND = Number(process.env.FERNMOSS_TEMPO_ROUNDS ?? '1');
const ONLY = process.env.FERNMOSS_TEMPO_ONLY?.split(',') ?? null;
/** Not among the fonts the ear is trained on. */
const FONT = '/usr/share/sounds/sf3/MuseScore_General_Full.sf3';

const NAMED = (t: TempoTrack): TempoTrack => t;
const DEAF = (t: TempoTrack): TempoTrack => ({ ...t, family: 'unknown', part: null });
const byEar =
  ({ bySound }: OpaqueSession) =>
  (t: TempoTrack): TempoTrack => ({ ...t, ...kindKnown(null, null, bySound.get(t.id) ?? null) });

function detected(session: OpaqueSession, as: (t: TempoTrack) => TempoTrack): Score {
  const found = detectTempo(session.tracks.map(as));
  return score(session.truth, found.ok ? describeReading(found.value) : NO_ESTIMATE);
}

const all: [Score, Score, Score][] = [];
for await (const session of heardSessions(TEMPO_CACHE, ROUND, FONT, ONLY)) {
  const scores = [NAMED, byEar(session), DEAF].map((as) => detected(session, as)) as [Score, Score, Score];
  all.push(scores);
  console.log(
    `${session.name.padEnd(26)} F named ${scores[0].f.toFixed(3)}, by ear ${scores[1].f.toFixed(3)}, deaf ${scores[2].f.toFixed(3)}; bars ${scores.map((s) => s.downbeatF.toFixed(2)).join(' ')}; ${session.tracks
      .map((t) => {
        const { family, part } = byEar(session)(t);
        return `${t.id.replace('.wav', '')} = ${part ?? family}`;
      })
      .join(', ')}`,
  );
}
(['with good names', 'opaque, by ear', 'opaque, without an ear'] as const).forEach((what, i) => {
  const f = all.map((s) => (s[i] as Score).f);
  const bars = all.map((s) => (s[i] as Score).downbeatF);
  const mean = (x: readonly number[]): string => (x.reduce((a, b) => a + b, 0) / x.length).toFixed(4);
  console.log(
    `tempo · ${all.length} sessions ${what}: F mean ${mean(f)}, worst ${Math.min(...f).toFixed(3)}; bars F mean ${mean(bars)}`,
  );
});
