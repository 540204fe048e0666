import { readFileSync, readdirSync } from 'node:fs';
import { FAMILIES } from '../naming';
import {
  applyChanges,
  emptySession,
  hasLoop,
  ROOT,
  type Change,
  type SessionState,
  tracksInOrder,
} from '../session';
import { createRandom, type Random } from '../units';
import {
  type Condition,
  DEFAULT_STYLE,
  type FolderRule,
  type HouseStyle,
  newTrack,
  proposalEdits,
  proposeSort,
  SHADES,
} from './index';

const NAMES = readdirSync('tests/checks/names')
  .flatMap((f) => readFileSync(`tests/checks/names/${f}`, 'utf8').split('\n'))
  .map((l) => l.split(' | ')[0]?.trim() ?? '')
  .filter((l) => l !== '' && !l.startsWith('#'))
  // Every fourth: a fair mixture.
  .filter((_, i) => i % 4 === 0);
/** Steps all properties together are tried for. */
const STEPS = 2000;
const pickFrom =
  (random: Random) =>
  <T>(list: readonly T[]): T =>
    list[Math.floor(random() * list.length)] as T;

function run(state: SessionState, edits: readonly Change[]): SessionState {
  const made = applyChanges(state, edits);
  if (!made.ok) throw new Error(`${made.code} ${made.id}`);
  return made.session;
}
const received = (names: readonly string[], style: HouseStyle): SessionState =>
  run(
    emptySession('s'),
    names.map((n, index) => ({
      kind: 'track.add',
      track: newTrack(`t-${n}`, n, {}, style),
      parentId: ROOT,
      index,
    })),
  );
const changesOf = (s: SessionState, style: HouseStyle, proposal: ReturnType<typeof proposeSort>): Change[] =>
  proposalEdits(s, style, proposal, new Set(proposal.rows.map((r) => r.trackId)));
const editsOf = (s: SessionState, style: HouseStyle, overHand = false): Change[] =>
  changesOf(s, style, proposeSort(s, style, { overHand }));
const applied = (s: SessionState, style: HouseStyle): SessionState => run(s, editsOf(s, style));

function randomCondition(random: Random, depth = 0): Condition {
  const pick = pickFrom(random);
  if (depth < 2 && random() < 0.3)
    return pick<Condition>([
      { all: [randomCondition(random, depth + 1), randomCondition(random, depth + 1)] },
      { any: [randomCondition(random, depth + 1)] },
      { not: randomCondition(random, depth + 1) },
    ]);
  return pick<Condition>([
    { nameHas: [pick(['kick', 'vox', 'l', 'room'])] },
    { nameMatches: pick(['^[a-k]', '2', 'r$']) },
    { family: [pick(FAMILIES)] },
    { part: [pick(['kick', 'snare', 'tom', 'guitar', 'vocal'])] },
    { position: ['in', 'di'] },
  ]);
}

/** A style whose folders, rules, colours and order are made up by chance. */
function randomStyle(random: Random): HouseStyle {
  const pick = pickFrom(random);
  const shuffled = <T>(list: readonly T[]): T[] =>
    list
      .map((x) => [random(), x] as const)
      .sort((a, b) => a[0] - b[0])
      .map(([, x]) => x);
  const folders = shuffled(DEFAULT_STYLE.folders).map((f): FolderRule => ({
    ...f,
    atLeast: pick([1, 1, 2, 5]),
    shades: pick(SHADES),
    bus: random() < 0.8 ? f.name : null,
    when: random() < 0.2 ? randomCondition(random) : null,
  }));
  folders.forEach((f, i) => {
    if (i > 2 && random() < 0.4)
      folders[i] = { ...f, parent: folders[Math.floor(random() * 3)]?.key ?? null };
  });
  return {
    ...DEFAULT_STYLE,
    folders,
    partOrder: shuffled(DEFAULT_STYLE.partOrder),
    junk: random() < 0.3 ? ['harbour'] : [],
    partColors: random() < 0.5 ? { kick: '#112233' } : {},
    rules: Array.from({ length: Math.floor(random() * 4) }, (_, i) => ({
      name: `r${i}`,
      on: random() < 0.8,
      when: randomCondition(random),
      then: pick<HouseStyle['rules'][number]['then']>([
        { family: pick(FAMILIES) },
        { part: 'udu' },
        { color: '#abcdef' },
        { folder: pick(folders).key },
        { name: 'Named' },
        { muted: true, pan: 0.5 },
      ]),
    })),
    returns: Array.from({ length: Math.floor(random() * 4) }, (_, i) => ({
      key: `r${i}`,
      name: `Return ${i}`,
      color: null,
      into: random() < 0.5 ? pick(folders).key : null,
    })),
    sends: Array.from({ length: Math.floor(random() * 4) }, () => ({
      from: pick(['tracks', 'sums'] as const),
      when: randomCondition(random),
      to: `r${Math.floor(random() * 4)}`,
      gainDb: -6,
      pan: pick([null, 0.5]),
      before: random() < 0.5,
    })),
    groups: Array.from({ length: Math.floor(random() * 3) }, (_, i) => ({
      key: `g${i}`,
      name: `Group ${i}`,
      when: randomCondition(random),
    })),
    names: {
      ...DEFAULT_STYLE.names,
      template: pick(['{part} {role} {position} {number} {side}', '{group}_{part}-{number}', '{part}']),
      numbers: pick(['digits', 'two-digits', 'letters']),
    },
  };
}
/** A person changes a way, a send, a group; what does not fit is refused and left. */
function byHandRouted(random: Random, s: SessionState): SessionState {
  const pick = pickFrom(random);
  const outcome = applyChanges(s, [
    pick<Change>([
      {
        kind: 'bus.change',
        id: pick(s.busOrder),
        fields: { outputBusId: pick([...s.busOrder, null]), byHand: ['outputBusId'] },
      },
      {
        kind: 'bus.change',
        id: pick(s.busOrder),
        fields: {
          sends: [{ busId: pick(s.busOrder), gainDb: 0, pan: null, before: false }],
          byHand: ['sends'],
        },
      },
      { kind: 'track.change', id: pick(tracksInOrder(s)).id, fields: { sends: [], byHand: ['sends'] } },
      {
        kind: 'groups.set',
        groups: s.groups.map((g) => ({ ...g, trackIds: g.trackIds.slice(1), byHand: random() < 0.5 })),
      },
    ]),
  ]);
  return outcome.ok ? outcome.session : s;
}
const someNames = (random: Random, most = 40): string[] => [
  ...new Set(Array.from({ length: 2 + Math.floor(random() * most) }, () => `${pickFrom(random)(NAMES)}`)),
];

it(`applying twice changes nothing, undo restores exactly, all is in its place (${STEPS} steps, seeds 1–100)`, () => {
  let steps = 0;
  for (let seed = 1; steps < STEPS; seed++) {
    const random = createRandom(seed);
    const pick = pickFrom(random);
    const names = someNames(random);
    let style = randomStyle(random);
    let s = received(names, style);
    for (let k = 0; k < 20; k++, steps++) {
      const before = s;
      const overHand = random() < 0.2;
      const edits = editsOf(s, style, overHand);
      const made = applyChanges(s, edits);
      if (!made.ok) throw new Error(`seed ${seed} step ${k}: ${made.code} ${made.id}`);
      expect(run(made.session, made.inverse)).toEqual(before);
      s = made.session;
      const again = proposeSort(s, style);
      expect({ seed, k, again: changesOf(s, style, again) }).toEqual({ seed, k, again: [] });
      expect(again.rows.filter((r) => r.moves || r.regroups || Object.keys(r.fields).length > 0)).toEqual([]);
      expect(again.sums).toEqual([]);
      expect(s.busOrder.filter((id) => hasLoop(s.buses, id))).toEqual([]);
      expect(tracksInOrder(s)).toHaveLength(names.length);
      // What a person does in between: sets, moves, takes another style.
      const track = pick(tracksInOrder(s));
      const what = random();
      if (what < 0.3)
        s = run(s, [
          {
            kind: 'track.change',
            id: track.id,
            fields: { family: pick(FAMILIES), byHand: [...new Set([...track.byHand, 'family'])] },
          },
        ]);
      else if (what < 0.5)
        s = run(s, [
          {
            kind: 'node.place',
            id: track.id,
            parentId: pick(Object.keys(s.children)),
            index: Math.floor(random() * 5),
          },
          ...(random() < 0.7
            ? [
                {
                  kind: 'track.change',
                  id: track.id,
                  fields: { byHand: [...new Set([...track.byHand, 'place'])] },
                } as const,
              ]
            : []),
        ]);
      else if (what < 0.55) style = randomStyle(random);
      else if (what < 0.6 && s.busOrder.length > 0) s = byHandRouted(random, s);
      else if (what < 0.7)
        s = run(s, [
          {
            kind: 'track.change',
            id: track.id,
            fields: { name: `By hand ${k}`, byHand: [...new Set([...track.byHand, 'name'])] },
          },
        ]);
    }
  }
});

it('the order of import does not change the result (100 deliveries, seeds 1–100)', () => {
  for (let seed = 1; seed <= 100; seed++) {
    const random = createRandom(seed);
    const names = someNames(random);
    const style = randomStyle(random);
    const shuffled = names
      .map((n) => [random(), n] as const)
      .sort((a, b) => a[0] - b[0])
      .map(([, n]) => n);
    const plain = (s: SessionState): unknown => ({
      ...s,
      // How it came to stand there is not how it stands.
      orderKeys: {},
      busOrder: [...s.busOrder].sort(),
      children: Object.fromEntries(Object.entries(s.children).map(([k, v]) => [k, v])),
    });
    expect({ seed, s: plain(applied(received(shuffled, style), style)) }).toEqual({
      seed,
      s: plain(applied(received(names, style), style)),
    });
  }
});
