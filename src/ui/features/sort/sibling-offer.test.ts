import { siblingsOf } from '@/core/naming';
import { applyChanges, emptySession, ROOT, type Track } from '@/core/session';
import { DEFAULT_STYLE, newTrack } from '@/core/style';
import { undecidedSiblings } from './sibling-offer';

it('offers those of the same name that nobody has decided and that are something else still', () => {
  const names = [
    'Jangle 1.wav',
    'Jangle 2.wav',
    'Jangle 3.wav',
    'Jangle 4.wav',
    'Kick.wav',
    'Snare.wav',
    'Bass.wav',
    'Hat.wav',
    'Keys.wav',
    'Tom.wav',
  ];
  const made = applyChanges(emptySession('s'), [
    ...names.map((n, index) => ({
      kind: 'track.add' as const,
      track: newTrack(`t${index}`, n, {}, DEFAULT_STYLE),
      parentId: ROOT,
      index,
    })),
    ...(
      [
        ['t0', 'guitars'],
        ['t2', 'keys'],
      ] as const
    ).map(([id, family]) => ({
      kind: 'track.change' as const,
      id,
      fields: { family, byHand: ['family'], confidence: 1 },
    })),
    { kind: 'track.change', id: 't3', fields: { family: 'guitars' } },
  ]);
  if (!made.ok) throw new Error(made.code);
  const siblings = (id: string): string[] => siblingsOf(names, Number(id.slice(1))).map((i) => `t${i}`);
  const of = (id: string): string[] =>
    undecidedSiblings(made.session, made.session.nodes[id] as Track, siblings(id)).map((t) => t.id);
  expect(of('t0')).toEqual(['t1']);
  expect(of('t2')).toEqual(['t1', 't3']);
});
