import type { HeardFacts, MicRelation } from '@/core/analysis';
import { farMicPairs, isTurnedOver, mayBeMix, mixGroup, pairFact } from '@/core/findings';
import { findMicGroups, findPairs, readNames, type SourceFields } from '@/core/naming';
import { arrivedLater, sourcesOf, type SessionState, soundTracks } from '@/core/session';
import { roundTo } from '@/core/units';
import { pairName, runTask } from '@/engine';
import { readConfig } from '@/server/config';
import { loadSession, RecordingModel, RelationModel } from '@/server/db';
import type { JobContext, JobHandler } from '@/server/jobs';
import { findTakesByItself, findTempoByItself, type RelationFacts, sortByItself } from '@/server/services';
import { soundPaths } from '../sound-paths';

type Row = RecordingModel & { sha256: string; peaksSha256: string };

/** What a look needs of the job it is part of. */
type LookContext = Pick<JobContext, 'progress' | 'cancel'>;

/** Pairs whose sketches are compared in one go: about 20 ms each. */
const MOST_COMPARED = 3000;
/** Pairs whose signals are compared although their names do not ask for it: about 0.3 s each for a song. */
const MOST_BY_SIGNAL = 80;

/** What the recordings of a session have to do with each other: microphones of one source, sides of one, one take twice, a mix of the others, a later arrival that plays what was there. Pairs that were looked at before are not looked at again. */
export const relate: JobHandler<'session.relate'> = async (job) => {
  const sessionId = job.sessionId as string;
  const begun = await beginLook(sessionId, job);
  if (!begun) return {};
  const { session, rows, look, sources } = begun;
  const fields = rows.map((r) => sources.get(r.id) as SourceFields);
  await look.mics(findMicGroups(fields).map((group) => group.map((i) => rows[i] as Row)));
  await look.farMics(rows, sources);
  job.progress(0.4);
  // The same length to the frame, or within a tenth of a second: exports differ in their tails.
  const lengths = rows.map((r) =>
    r.channels === 1 ? Math.round((10 * Number(r.lengthFrames)) / (r.sampleRateHz as number)) : NaN,
  );
  await look.pairs(
    findPairs(
      readNames(
        rows.map((r) => r.receivedName),
        session.words,
      ),
      lengths,
    ).map((p) => [rows[p.left] as Row, rows[p.right] as Row]),
  );
  job.progress(0.5);
  await look.twins(rows);
  job.progress(0.8);
  await look.across(session, rows, sources);
  await sortByItself(sessionId);
  await findTempoByItself(sessionId);
  await findTakesByItself(sessionId);
  return {};
};

/** What is there to be looked at, and what was; null where the session is gone. */
async function beginLook(sessionId: string, job: LookContext) {
  const loaded = await loadSession(sessionId);
  if (!loaded) return null;
  const rows = (
    await RecordingModel.findAll({
      where: { sessionId, state: 'ready' },
      order: [
        ['createdAt', 'ASC'],
        ['receivedName', 'ASC'],
      ],
    })
  ).filter((r): r is Row => r.sha256 !== null && r.peaksSha256 !== null);
  const known = new Set(
    (await RelationModel.findAll({ where: { sessionId } })).map((r) => `${r.kind} ${pairName(r.a, r.b)}`),
  );
  const look = new Look(sessionId, known, job);
  const sources = sourcesOf(loaded.session, rows, readNames);
  return { session: loaded.session, rows, look, sources };
}

/** Overheads and rooms that became known as such after the rest was looked at. */
export async function relateFarMics(sessionId: string, job: LookContext): Promise<void> {
  const begun = await beginLook(sessionId, job);
  await begun?.look.farMics(begun.rows, begun.sources);
}

const micFacts = (r: MicRelation): RelationFacts => ({
  delaySamples: roundTo(r.delaySamples, 2),
  polarity: r.polarity,
  correlation: roundTo(r.correlation, 4),
  confidence: roundTo(r.confidence, 3),
});

/** Looks at pairs of recordings and keeps what it finds. */
class Look {
  constructor(
    private readonly sessionId: string,
    private readonly known: Set<string>,
    private readonly job: LookContext,
  ) {}

  private isKnown = (kind: string, a: Row, b: Row): boolean =>
    a.sha256 === b.sha256 || this.known.has(`${kind} ${pairName(a.sha256, b.sha256)}`);

  private keep(kind: string, a: Row, b: Row, facts: RelationFacts | null): Promise<unknown> {
    this.known.add(`${kind} ${pairName(a.sha256, b.sha256)}`);
    return RelationModel.upsert({ sessionId: this.sessionId, kind, a: a.sha256, b: b.sha256, facts });
  }

  private task = () => ({ threadPath: readConfig().threadPath, cancel: this.job.cancel });

  private async paths(rows: readonly Row[]): Promise<string[]> {
    const pathOf = await soundPaths(
      rows.map((r) => r.sha256),
      this.job.cancel,
    );
    return rows.map((r) => pathOf(r.sha256));
  }

  async mics(groups: readonly (readonly Row[])[]): Promise<void> {
    for (const group of groups) {
      const [leader, ...others] = group.filter((r) => r.channels === 1);
      const fresh = leader ? others.filter((o) => !this.isKnown('mic', leader, o)) : [];
      if (!leader || fresh.length === 0) continue;
      const found = await runTask('relate', { paths: await this.paths([leader, ...fresh]) }, this.task());
      for (const [i, other] of fresh.entries()) {
        const r = found[i] ?? null;
        await this.keep('mic', leader, other, r && micFacts(r));
      }
    }
  }

  /** Microphones over a kit and in its room, against its snare. */
  async farMics(rows: readonly Row[], sources: ReadonlyMap<string, SourceFields>): Promise<void> {
    const asked = farMicPairs(
      rows.map((r) => ({
        row: r,
        id: r.id,
        channels: r.channels ?? 1,
        source: sources.get(r.id) as SourceFields,
      })),
    ).filter((p) => !this.isKnown(`far-mic-${p.channel}`, p.leader.row, p.other.row));
    const [first] = asked;
    if (!first) return;
    const paths = await this.paths([first.leader.row, ...asked.map((p) => p.other.row)]);
    const found = await runTask('relate', { paths, farChannels: asked.map((p) => p.channel) }, this.task());
    for (const [i, { leader, other, channel }] of asked.entries()) {
      const r = found[i] ?? null;
      await this.keep(`far-mic-${channel}`, leader.row, other.row, r && micFacts(r));
    }
  }

  /** Names may be misread: what rises together is compared by its signal, too. Only what is surely one source is kept. */
  async micsBySignal(pairs: readonly (readonly [Row, Row])[]): Promise<void> {
    for (const [leader, other] of pairs.slice(0, MOST_BY_SIGNAL)) {
      const kinds = ['mic', 'pair', 'twin'];
      if (kinds.some((kind) => this.isKnown(kind, leader, other))) continue;
      const [r = null] = await runTask('relate', { paths: await this.paths([leader, other]) }, this.task());
      await this.keep('mic', leader, other, r && isTurnedOver(r) ? micFacts(r) : null);
    }
  }

  async pairs(pairs: readonly (readonly [Row, Row])[]): Promise<void> {
    for (const [left, right] of pairs) {
      if (this.isKnown('pair', left, right)) continue;
      const [r = null] = await runTask('relate', { paths: await this.paths([left, right]) }, this.task());
      await this.keep('pair', left, right, pairFact(r));
    }
  }

  async twins(rows: readonly Row[]): Promise<void> {
    const files = [...new Map(rows.map((r) => [r.sha256, r])).values()];
    const path = await soundPaths(
      files.flatMap((r) => [r.sha256, r.peaksSha256]),
      this.job.cancel,
    );
    const skip = files.flatMap((a, i) =>
      files
        .slice(i + 1)
        .filter((b) => this.isKnown('twin', a, b))
        .map((b) => pairName(a.id, b.id)),
    );
    const twins = await runTask(
      'twins',
      { files: files.map((r) => ({ id: r.id, path: path(r.sha256), peaksPath: path(r.peaksSha256) })), skip },
      { ...this.task(), progress: (share) => this.job.progress(0.5 + 0.3 * share) },
    );
    for (const { a, b, ...facts } of twins)
      await this.keep(
        'twin',
        files.find((f) => f.id === a) as Row,
        files.find((f) => f.id === b) as Row,
        facts,
      );
  }

  /** A mix is looked for anew each time, as the others may have changed. */
  async across(
    session: SessionState,
    rows: readonly Row[],
    sources: ReadonlyMap<string, SourceFields>,
  ): Promise<void> {
    const heard = rows.filter((r) => r.sketchSha256 !== null);
    const known = (r: Row) => ({
      id: r.id,
      channels: r.channels ?? 1,
      source: sources.get(r.id) as SourceFields,
      heard: r.heard as HeardFacts | null,
    });
    const possible = heard.filter((r) => mayBeMix(known(r))).map((r) => r.id);
    const settled = arrivedLater(session);
    const isNew = (r: Row): boolean => settled.get(r.id) === 'later';
    const pairs = heard
      .filter(isNew)
      .flatMap((a) =>
        heard
          .filter((b) => settled.get(b.id) === 'there' && !this.isKnown('alike', a, b))
          .map((b) => [a, b] as const),
      )
      .slice(0, MOST_COMPARED);
    const singles = heard.filter((r) => r.channels === 1).map((r) => r.id);
    if (possible.length === 0 && pairs.length === 0 && singles.length < 2) return;
    const path = await soundPaths(
      heard.map((r) => r.sketchSha256 as string),
      this.job.cancel,
    );
    const starts = new Map(
      soundTracks(session).map((t) => [t.recordingId, t.startFrames / (session.sampleRateHz ?? 48_000)]),
    );
    const groupOf = (r: Row): string => mixGroup(known(r));
    // References are no part of a mix.
    const parts = heard.filter((r) => starts.has(r.id) && !['reference', 'click'].includes(groupOf(r)));
    const asked = {
      files: parts.map((r) => ({
        id: r.id,
        path: path(r.sketchSha256 as string),
        startSeconds: starts.get(r.id) as number,
        group: groupOf(r),
      })),
      candidates: possible,
      pairs: pairs.map(([a, b]) => [a.id, b.id] as const),
      singles,
    };
    const found = await runTask('across', asked, {
      ...this.task(),
      progress: (share) => this.job.progress(0.8 + 0.2 * share),
    });
    const row = (id: string): Row => rows.find((r) => r.id === id) as Row;
    await this.micsBySignal(found.together.map(([a, b]) => [row(a), row(b)] as const));
    for (const { id, ...facts } of found.mixes) await this.keep('mix', row(id), row(id), facts);
    for (const [a, b] of pairs) {
      const alike = found.alikes.find((f) => f.fresh === a.id && f.settled === b.id);
      await this.keep(
        'alike',
        a,
        b,
        alike ? { laterSeconds: alike.laterSeconds, correlation: alike.correlation } : null,
      );
    }
  }
}
