import { parse } from 'yaml';
import type { StyleListItem, StyleView } from '@/contracts';
import { tracksInOrder } from '@/core/session';
import { DEFAULT_STYLE, type HouseStyle, proposalEdits, proposeSort } from '@/core/style';
import { verifyReplay } from '@/server/services';
import { tone, wavBytes } from '../support/recordings';
import { edit, BASE, call, newSession, settled, upload, viewOf } from '../support/server';

const list = async (): Promise<StyleListItem[]> => (await call<StyleListItem[]>('/api/styles')).value;
const get = async (id: string, version?: number): Promise<StyleView> =>
  (await call<StyleView>(`/api/styles/${id}${version === undefined ? '' : `?version=${version}`}`)).value;
const take = async (text: string) =>
  call<{ id: string; fault?: { code: string; issues?: string[] } }>('/api/styles', 'POST', { text });
const save = async (id: string, base: number, style: HouseStyle, note = '') =>
  call<{ version?: number; fault?: { code: string; version?: number; issues?: string[] } }>(
    `/api/styles/${id}`,
    'POST',
    { base, style, note },
  );
const faultOf = async (answer: Promise<{ value: unknown }>): Promise<string | undefined> =>
  ((await answer).value as { fault?: { code: string } } | null)?.fault?.code;

it('a style is taken in, changed in versions that stay, handed out and read back', async () => {
  const {
    value: { id },
  } = await take(
    'name: Saltmarsh\nversion: 12\ndesk: old\nwords:\n  - {text: frog, family: percussion, part: guiro}\n',
  );
  const first = await get(id);
  expect(first).toMatchObject({
    name: 'Saltmarsh',
    isDefault: false,
    version: 1,
    versions: [{ version: 1, note: 'from a file, there version 12' }],
    style: { name: 'Saltmarsh', version: 1, folders: DEFAULT_STYLE.folders },
  });
  expect(
    (await save(id, 1, { ...first.style, name: 'Saltmarsh II', junk: ['harbour'] }, 'for the quay')).value
      .version,
  ).toBe(2);
  expect(await get(id)).toMatchObject({
    name: 'Saltmarsh II',
    version: 2,
    style: { junk: ['harbour'], version: 2 },
    versions: [{ version: 2, note: 'for the quay' }, { version: 1 }],
  });
  expect((await get(id, 1)).style).toEqual(first.style);
  const file = await fetch(`${BASE}/api/styles/${id}/file?version=2`);
  expect(file.headers.get('content-disposition')).toContain('Saltmarsh-II_v2.yaml');
  const text = await file.text();
  // What nothing here reads is kept all the way.
  expect(parse(text)).toMatchObject({ name: 'Saltmarsh II', desk: 'old', junk: ['harbour'] });
  const again = await take(text);
  const { version: _v, ...there } = (await get(again.value.id)).style;
  const { version: _w, ...here } = (await get(id)).style;
  expect(there).toEqual(here);
  const copied = await call<{ id: string }>('/api/styles', 'POST', {
    copyOf: { id, version: 1 },
    name: 'Copy',
  });
  expect((await get(copied.value.id)).style).toMatchObject({
    name: 'Copy',
    version: 1,
    words: first.style.words,
  });
});

it('refuses what does not fit, with its place, and what was changed meanwhile', async () => {
  const bad = await take('name: x\nfolders:\n  - {key: a, name: A, families: [pots]}\n');
  expect(bad.status).toBe(422);
  expect(bad.value.fault).toMatchObject({ code: 'style.not_readable' });
  expect(bad.value.fault?.issues?.[0]).toMatch(/^line 3, column 34: /);
  const {
    value: { id },
  } = await take('name: Two hands\n');
  const { style } = await get(id);
  expect((await save(id, 1, { ...style, leadInBars: 4 })).value.version).toBe(2);
  expect((await save(id, 1, { ...style, leadInBars: 3 })).value.fault).toMatchObject({
    code: 'style.stale',
    version: 2,
  });
  expect((await save(id, 2, { ...style, leadInBars: 99 })).value.fault).toMatchObject({
    code: 'request.invalid',
  });
  expect(
    (await save(id, 2, { ...style, rules: [{ name: 'x', on: true, when: { nameMatches: '(' }, then: {} }] }))
      .value.fault?.issues?.[0],
  ).toContain('RE2');
  expect((await get(id)).style.leadInBars).toBe(4);
  expect(await faultOf(call('/api/styles/nowhere'))).toBe('style.not_found');
  expect(await faultOf(call(`/api/styles/${id}?version=9`))).toBe('style.not_found');
  expect(await faultOf(call(`/api/styles/${id}?version=x`))).toBe('style.not_found');
  expect((await call('/api/styles', 'POST', {})).status).toBe(400);
});

it('sessions follow a version, whatever comes after; the package and undo follow too', async () => {
  const {
    value: { id: styleId },
  } = await take(
    'name: Slipway house\nfileJoin: "-"\nrules:\n  - {name: Frogs, when: {nameHas: frog}, then: {family: percussion, part: guiro, color: "#0a7d4e"}}\n',
  );
  const id = await newSession('Follows');
  expect((await viewOf(id)).session.style).toEqual({
    id: (await list()).find((s) => s.isDefault)?.id,
    version: (await list()).find((s) => s.isDefault)?.versions[0]?.version,
  });
  await upload(id, 'frog 1.wav', await wavBytes([tone(300, 0.2)]));
  await settled(id);
  expect((await edit(id, 'Follow', [{ kind: 'style.use', style: { id: styleId, version: 1 } }])).status).toBe(
    200,
  );
  const view = await viewOf(id);
  expect(view).toMatchObject({ style: { name: 'Slipway house', version: 1, fileJoin: '-' }, styleNewest: 1 });
  const proposal = proposeSort(view.session, view.style);
  expect(
    (
      await edit(
        id,
        'Apply',
        proposalEdits(view.session, view.style, proposal, new Set(proposal.rows.map((r) => r.trackId))),
      )
    ).status,
  ).toBe(200);
  expect(tracksInOrder((await viewOf(id)).session)[0]).toMatchObject({
    name: 'Guiro',
    family: 'percussion',
    color: '#0a7d4e',
  });
  await save(styleId, 1, { ...view.style, rules: [] });
  expect(await viewOf(id)).toMatchObject({
    style: { version: 1, rules: [{ name: 'Frogs' }] },
    styleNewest: 2,
  });
  expect(
    (await list()).find((s) => s.id === styleId)?.versions.map((v) => v.sessions.map((s) => s.name)),
  ).toEqual([[], ['Follows']]);
  expect(
    await faultOf(edit(id, 'No such', [{ kind: 'style.use', style: { id: styleId, version: 7 } }])),
  ).toBe('style.not_found');
  // Followed, it cannot go; let go of, it can, and what was made with it still finds it.
  expect(await faultOf(call(`/api/styles/${styleId}`, 'DELETE'))).toBe('style.in_use');
  await edit(id, 'Plain', [{ kind: 'style.use', style: null }]);
  expect((await viewOf(id)).style.name).toBe(DEFAULT_STYLE.name);
  expect((await call(`/api/styles/${styleId}`, 'DELETE')).status).toBe(200);
  expect((await list()).some((s) => s.id === styleId)).toBe(false);
  await call(`/api/sessions/${id}/undo`, 'POST');
  expect((await viewOf(id)).style).toMatchObject({ name: 'Slipway house', version: 1 });
  // It can still be looked at, and changing it brings it back.
  const removed = await get(styleId);
  expect(removed).toMatchObject({ version: 2, name: 'Slipway house' });
  expect((await save(styleId, 2, removed.style)).value.version).toBe(3);
  expect((await list()).some((s) => s.id === styleId)).toBe(true);
  const { rows, replayed } = await verifyReplay(id);
  expect(replayed).toEqual(rows);
});

it('one style is the default; new sessions follow its newest version', async () => {
  const before = (await list()).find((s) => s.isDefault) as StyleListItem;
  const {
    value: { id },
  } = await take('name: Our default\n');
  await call(`/api/styles/${id}/default`, 'POST');
  expect((await list()).filter((s) => s.isDefault).map((s) => s.id)).toEqual([id]);
  await save(id, 1, (await get(id)).style);
  expect((await viewOf(await newSession('New'))).session.style).toEqual({ id, version: 2 });
  expect(await faultOf(call(`/api/styles/${id}`, 'DELETE'))).toBe('style.in_use');
  await call(`/api/styles/${before.id}/default`, 'POST');
});

it('the JSON Schema is there for editors', async () => {
  expect((await call<{ title: string; properties: object }>('/api/styles/schema')).value).toMatchObject({
    title: 'Fernmoss house style',
    properties: { rules: { type: 'array' } },
  });
});
