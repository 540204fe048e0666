import type { NamesAnswers } from '@/contracts';
import { readNames } from '@/core/naming';
import { call, edit, newSession, viewOf } from '../support/server';

const ask = <T>(question: object) => call<T>('/api/names', 'POST', question);
const NAMES = ['KICK in_03.wav', 'Гитара 2.wav', 'zixomar 1.wav', 'ZIXOMAR_L.wav', '', '🥁 '.repeat(400)];
const plain = { names: NAMES, own: [], junk: [] };

it('reads names as the core does, also with words of a house, asked twice at once', async () => {
  const own = [{ text: 'zixomar', family: 'percussion', part: 'jawbone' }] as const;
  const [once, again, other] = await Promise.all([
    ask<NamesAnswers['read']>({ kind: 'read', ...plain }),
    ask<NamesAnswers['read']>({ kind: 'read', ...plain }),
    ask<NamesAnswers['read']>({ kind: 'read', ...plain, own }),
  ]);
  expect(once.value).toEqual(readNames(NAMES));
  expect(again.value).toEqual(once.value);
  expect(other.value).toEqual(readNames(NAMES, own));
});
it('says what is like a name, and what a correction teaches', async () => {
  expect((await ask({ kind: 'siblings', ...plain, at: 2 })).value).toEqual([3]);
  const said = { family: 'percussion', part: 'jawbone' };
  expect(
    (await ask<NamesAnswers['lessons']>({ kind: 'lessons', ...plain, at: 2, said })).value,
  ).toMatchObject([{ word: { text: 'zixomar', ...said }, also: [{ at: 3 }] }]);
});
it.each([
  ['another kind', { kind: 'write', ...plain }],
  ['no names', { kind: 'read', own: [], junk: [] }],
  ['a name that is none', { kind: 'read', ...plain, names: [{}] }],
  ['a name without end', { kind: 'read', ...plain, names: ['x'.repeat(6000)] }],
  ['a place beyond the names', { kind: 'siblings', ...plain, at: 6 }],
  ['a place in nothing', { kind: 'siblings', names: [], own: [], junk: [], at: 1 }],
  ['no place', { kind: 'lessons', ...plain, said: { family: 'keys', part: null } }],
  ['nothing said', { kind: 'lessons', ...plain, at: 0 }],
  ['an unknown family', { kind: 'lessons', ...plain, at: 0, said: { family: 'whales', part: null } }],
  ['a word with marks', { kind: 'read', ...plain, own: [{ text: 'a/b', family: 'keys', part: null }] }],
  ['more than is asked for', { kind: 'read', ...plain, path: '/etc/passwd' }],
])('refuses %s in words', async (_, question) => {
  const { status, value } = await ask<{ fault: { code: string; issues: string[] } }>(question);
  expect([status, value.fault.code, value.fault.issues.length > 0]).toEqual([400, 'request.invalid', true]);
});

it('the key of a song is kept, undone and refused where it is too long', async () => {
  const id = await newSession('Low Water');
  expect((await viewOf(id)).session.key).toBe('');
  await edit(id, 'Key', [{ kind: 'session.describe', key: 'G minor' }]);
  expect((await viewOf(id)).session.key).toBe('G minor');
  await call(`/api/sessions/${id}/undo`, 'POST');
  expect((await viewOf(id)).session.key).toBe('');
  const long = await edit(id, 'Key', [{ kind: 'session.describe', key: 'x'.repeat(41) }]);
  expect(long.status).toBe(400);
});
