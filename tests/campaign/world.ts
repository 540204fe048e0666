import { createHash } from 'node:crypto';
import type { SessionView } from '@/contracts';
import { type Change, type Clip, soundTracks, type Track, tracksInOrder, wholeClip } from '@/core/session';
import { DEFAULT_STYLE, proposalEdits, proposeSort } from '@/core/style';
import { createSongMap, songMapToFile } from '@/core/time';
import type { Random } from '@/core/units';
import { knocks, tone, wavBytes } from '../support/recordings';
import {
  edit,
  BASE,
  beginUpload,
  call,
  newSession,
  offsetOf,
  sendPart,
  settled,
  until,
  viewOf,
} from '../support/server';

/** What was done and acknowledged: it has to be there after every kill. */
export interface World {
  readonly sessionId: string;
  round: number;
  /** Steps the server said were done. */
  readonly edits: { readonly revision: number; readonly label: string }[];
  /** Files the server said it had in whole. */
  readonly uploads: { readonly sessionId: string; readonly name: string; readonly sha256: string }[];
  /** Sessions that were deleted. */
  readonly deleted: string[];
  /** Name of a conformed file → its bytes, over the whole campaign. */
  readonly conformed: Map<string, string>;
  /** Packages read back already, and the hashes of the sound of each revision. */
  readonly verified: Set<string>;
  readonly sounds: Map<string, string>;
  readonly hashed: Set<string>;
}

const BEATS = Array.from({ length: 28 }, (_, i) => 0.5 + i * 0.5 + 0.01 * Math.sin(i));
const SECONDS = 15;
const PATIENCE_MS = 90_000;

/** A session of a small band with a map, its houses in order. */
export async function prepareWorld(random: Random, seed: number): Promise<World> {
  const sessionId = await newSession(`Campaign ${seed}`);
  const world: World = {
    sessionId,
    round: 0,
    edits: [],
    uploads: [],
    deleted: [],
    conformed: new Map(),
    verified: new Set(),
    sounds: new Map(),
    hashed: new Set(),
  };
  const files: Record<string, Uint8Array> = {
    'KICK in.wav': await wavBytes([
      knocks(
        BEATS.filter((_, i) => i % 2 === 0),
        SECONDS,
        60,
      ),
    ]),
    'Sn top.wav': await wavBytes([
      knocks(
        BEATS.filter((_, i) => i % 2 === 1),
        SECONDS,
        210,
      ),
    ]),
    'DB di.wav': await wavBytes([tone(82, SECONDS, 0.3)]),
    'LV.wav': await wavBytes([tone(440 + Math.floor(random() * 40), SECONDS, 0.2)]),
    'odd rate.wav': await wavBytes([tone(500, SECONDS, 0.2, 44_100)], { rateHz: 44_100 }),
  };
  for (const [name, bytes] of Object.entries(files)) await uploadWhole(world, sessionId, name, bytes);
  await settled(sessionId);
  await step(world, 'sort', (view) => {
    const proposal = proposeSort(view.session, DEFAULT_STYLE);
    return proposalEdits(view.session, DEFAULT_STYLE, proposal, new Set(proposal.rows.map((r) => r.trackId)));
  });
  const map = createSongMap(
    BEATS.map((seconds, quarters) => ({ quarters, seconds })),
    [{ bar: 1, numerator: 4, denominator: 4 }],
  );
  await step(world, 'map', () => [
    {
      kind: 'map.replace',
      map: songMapToFile(map),
      facts: {
        steady: false,
        bpm: null,
        foundBy: null,
        pulses: BEATS.map((seconds) => ({ seconds, confidence: 1 })),
      },
    },
  ]);
  return world;
}

/** Tries until the server answers at all: it may just have been killed. 5xx says that nothing is known. */
const patiently = <T>(
  ask: () => Promise<{ readonly status: number; readonly value: T }>,
  what: string,
): Promise<{ readonly status: number; readonly value: T }> =>
  until(
    async () => {
      const answer = await ask();
      return answer.status < 500 && answer;
    },
    what,
    PATIENCE_MS,
  );

const view = (id: string): Promise<SessionView> =>
  until(
    async () => {
      const v = await viewOf(id);
      return v.session && v;
    },
    'the session',
    PATIENCE_MS,
  );

/** One step; what was answered is remembered, what was not answered is not repeated blindly: the label tells whether it is there. */
async function step(world: World, name: string, make: (v: SessionView) => readonly Change[]): Promise<void> {
  const label = `${name} ${world.round}.${world.edits.length}`;
  await until(
    async () => {
      const now = await view(world.sessionId);
      const changes = make(now);
      if (changes.length === 0) return true;
      const { status, value } = await edit(world.sessionId, label, changes, now);
      if (status === 200 && value.revision !== undefined)
        world.edits.push({ revision: value.revision, label });
      else if (status !== 200 && status !== 409 && status < 500)
        throw new Error(`“${label}” refused: ${JSON.stringify(value)}`);
      return status === 200;
    },
    label,
    PATIENCE_MS,
  );
}

const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

/** An upload in pieces, going on where the server is, as the page does it. */
async function uploadWhole(world: World, sessionId: string, name: string, bytes: Uint8Array): Promise<void> {
  const address = await until(
    () => beginUpload(sessionId, name, bytes.length),
    'an upload to begin',
    PATIENCE_MS,
  );
  await until(
    async () => {
      let at = await offsetOf(address);
      while (at < bytes.length)
        at = await sendPart(address, bytes.subarray(at, Math.min(bytes.length, at + 400_000)), at);
      return true;
    },
    `upload of ${name}`,
    PATIENCE_MS,
  );
  world.uploads.push({ sessionId, name, sha256: sha256(bytes) });
}

/** A track from end to end again, or cut into stretches that cross over or leave gaps. */
function randomCuts({ laneId }: Track, random: Random): Clip[] {
  const [whole] = wholeClip(laneId);
  if (random() < 0.3) return [whole];
  const clips: Clip[] = [];
  for (let at = 0; at < SECONDS * 48_000 && clips.length < 8;) {
    const length = 20_000 + Math.floor(random() * 90_000);
    const before = clips.at(-1);
    const cross = before && random() < 0.6 ? 480 : 0;
    if (before && cross > 0) clips[clips.length - 1] = { ...before, fadeOutFrames: cross };
    clips.push({
      ...whole,
      id: before ? `${whole.id.slice(0, 56)}-${clips.length}` : whole.id,
      fromFrames: at - cross,
      toFrames: at + length,
      fadeInFrames: cross,
      fadeInShape: random() < 0.5 ? 'equal-gain' : 'equal-power',
      slipFrames: random() < 0.2 ? 100 : 0,
      gainDb: random() < 0.3 ? -3 : 0,
      off: random() < 0.1,
    });
    at += length + (cross > 0 ? 0 : 5000);
  }
  return clips;
}

/** Everything that can be under way when something is killed. */
export const ACTIVITIES: Readonly<Record<string, (world: World, random: Random) => Promise<void>>> = {
  async edits(world, random) {
    for (let i = 0; i < 6; i++)
      await step(world, 'edit', ({ session }) => {
        const tracks = tracksInOrder(session);
        const track = tracks[Math.floor(random() * tracks.length)];
        return track
          ? [
              {
                kind: 'track.change',
                id: track.id,
                fields: {
                  gainDb: Math.round(random() * 12) - 6,
                  name: `${track.name.slice(0, 12)}${Math.floor(random() * 10)}`.slice(0, 20),
                },
              },
            ]
          : [];
      });
  },
  async cut(world, random) {
    for (let i = 0; i < 3; i++)
      await step(world, 'cut', ({ session }) => {
        const tracks = soundTracks(session);
        const track = tracks[Math.floor(random() * tracks.length)];
        return track
          ? [{ kind: 'track.change', id: track.id, fields: { clips: randomCuts(track, random) } }]
          : [];
      });
  },
  async route(world, random) {
    await step(world, 'route', ({ session }) => {
      const tracks = tracksInOrder(session).slice(0, 4);
      const made: Change[] = session.buses['return-own-1']
        ? []
        : [
            {
              kind: 'bus.add',
              bus: { id: 'return-own-1', name: 'Room', color: null, kind: 'return', outputBusId: null },
              index: session.busOrder.length,
            },
          ];
      return [
        ...made,
        ...tracks.map((t): Change => ({
          kind: 'track.change',
          id: t.id,
          fields: {
            sends:
              random() < 0.3
                ? []
                : [
                    {
                      busId: 'return-own-1',
                      gainDb: -Math.ceil(random() * 20),
                      pan: null,
                      before: random() < 0.5,
                    },
                  ],
          },
        })),
        {
          kind: 'groups.set',
          groups: [
            {
              id: 'group-own-1',
              name: `Round ${world.round}`,
              trackIds: tracks.map((t) => t.id),
              on: random() < 0.5,
              gainDb: -1,
              byHand: true,
            },
          ],
        },
      ];
    });
  },
  async pairs(world, random) {
    const { session, recordings } = await view(world.sessionId);
    const channels = (t: { readonly recordingId: string }): number | null =>
      recordings.find((r) => r.id === t.recordingId && r.state === 'ready')?.channels ?? null;
    const stereo = tracksInOrder(session).find((t) => channels(t) === 2 && t.monoFrom === null);
    if (stereo && random() < 0.5)
      return void (await patiently(
        () => call(`/api/sessions/${world.sessionId}/pairs`, 'POST', { split: stereo.id }),
        'a pair to be split',
      ));
    const [a, b] = tracksInOrder(session)
      .filter((t) => channels(t) === 1)
      .slice(-2);
    if (!a || !b) return;
    await step(world, 'level a pair', (now) =>
      [a, b]
        .filter((t) => now.session.nodes[t.id])
        .map((t): Change => ({ kind: 'track.change', id: t.id, fields: { gainDb: 0 } })),
    );
    await patiently(
      () => call(`/api/sessions/${world.sessionId}/pairs`, 'POST', { join: [a.id, b.id] }),
      'a pair to be joined',
    );
  },
  async undo(world) {
    for (const action of ['undo', 'undo', 'redo'])
      await patiently(() => call(`/api/sessions/${world.sessionId}/${action}`, 'POST'), action);
  },
  async upload(world, random) {
    await uploadWhole(
      world,
      world.sessionId,
      `take ${world.round}.wav`,
      await wavBytes([tone(200 + Math.floor(random() * 500), 4 + random(), 0.2)]),
    );
  },
  async convert(world, random) {
    await uploadWhole(
      world,
      world.sessionId,
      `odd ${world.round}.wav`,
      await wavBytes([tone(200 + Math.floor(random() * 500), 6 + random(), 0.2, 44_100)], { rateHz: 44_100 }),
    );
  },
  async detect(world, random) {
    // The whole song, or a stretch of the map it has.
    const pulses = (await view(world.sessionId)).session.mapFacts?.pulses.length ?? 0;
    await patiently(
      () =>
        call(
          `/api/sessions/${world.sessionId}/tempo`,
          'POST',
          pulses > 12 && random() < 0.5 ? { between: { from: 2, to: 10 } } : {},
        ),
      'a detection',
    );
  },
  async conform(world, random) {
    await step(world, 'conform', () => [
      {
        kind: 'conform.set',
        conform: { bpm: 116 + 2 * Math.floor(random() * 4), treatments: {}, heard: 'played' },
      },
    ]);
  },
  async audition(world, random) {
    const tracks = tracksInOrder((await view(world.sessionId)).session).slice(0, 3);
    await patiently(
      () =>
        call(`/api/sessions/${world.sessionId}/audition`, 'POST', {
          bpm: 117 + Math.floor(random() * 3),
          treatments: {},
          fromSeconds: 2,
          toSeconds: 6,
          trackIds: tracks.map((t) => t.id),
        }),
      'an audition',
    );
  },
  async handover(world) {
    await patiently(
      () =>
        call(`/api/sessions/${world.sessionId}/handovers`, 'POST', {
          contents: 'played',
          folder: process.env.FERNMOSS_FOLDERS ?? null,
        }),
      'a handover',
    );
  },
  async copy(world) {
    const done = (await view(world.sessionId)).handovers.find((h) => h.state === 'done');
    if (done)
      await patiently(
        () => call(`/api/handovers/${done.id}/copy`, 'POST', { folder: process.env.FERNMOSS_FOLDERS ?? '' }),
        'a copy',
      );
  },
  async checkpoint(world) {
    await patiently(
      () => call(`/api/sessions/${world.sessionId}/checkpoints`, 'POST', { name: `mark ${world.round}` }),
      'a checkpoint',
    );
    const { revision } = await view(world.sessionId);
    await patiently(
      () =>
        call(`/api/sessions/${world.sessionId}/return`, 'POST', {
          revision: Math.max(1, revision - 3),
          baseRevision: revision,
        }),
      'a way back',
    );
  },
  async clean(world, random) {
    const { handovers } = await view(world.sessionId);
    const oldest = handovers.filter((h) => h.state === 'done').at(-1);
    await patiently(
      () =>
        call(`/api/sessions/${world.sessionId}/clean`, 'POST', {
          leftovers: true,
          conformed: random() < 0.5,
          packages: handovers.length > 3 && oldest ? [oldest.id] : [],
        }),
      'a clean-up',
    );
  },
  async remove(world) {
    // The same content as in the big session: its bytes must survive the end of this one.
    const other = await until(() => newSession(`Passing ${world.round}`), 'a session', PATIENCE_MS);
    await uploadWhole(world, other, 'LV.wav', await wavBytes([tone(333, 3, 0.2)]));
    await patiently(
      () => call('/api/sessions/shelf', 'POST', { ids: [other], shelf: 'waste' }),
      'its way out',
    );
    await patiently(() => call(`/api/sessions/${other}`, 'DELETE'), 'its end');
    world.deleted.push(other);
  },
};

/** Waits until nothing is under way in the session, however long the services take to come back. */
export const atRest = (world: World): Promise<SessionView> => settled(world.sessionId, 240_000);

/** Whether the server answers. */
export const answers = (): Promise<boolean> =>
  fetch(`${BASE}/api/health`).then(
    (r) => r.ok,
    () => false,
  );
