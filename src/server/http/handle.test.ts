import * as yup from 'yup';
import { RequestFault } from './fault';
import { bodyOf, handle } from './handle';
import { readBody, readBodyWithList } from './read-body';

const answer = async (work: () => Promise<unknown>): Promise<[number, unknown]> => {
  const response = await handle(work);
  return [response.status, await response.json()];
};
const fail = (cause: unknown) => (): Promise<never> => Promise.reject(cause);

it('gives a value as JSON, nothing as null, a response as it is', async () => {
  expect(await answer(async () => ({ a: 1 }))).toEqual([200, { a: 1 }]);
  expect(await answer(async () => undefined)).toEqual([200, null]);
  const own = new Response('raw', { status: 206 });
  expect(await handle(async () => own)).toBe(own);
});

it('turns faults into a status and a code', async () => {
  expect(await answer(fail(new RequestFault({ code: 'session.not_found' })))).toEqual([
    404,
    { fault: { code: 'session.not_found' } },
  ]);
  expect(await answer(fail(new RequestFault({ code: 'session.stale_revision', revision: 4 })))).toEqual([
    409,
    { fault: { code: 'session.stale_revision', revision: 4 } },
  ]);
  expect(await answer(fail(new RequestFault({ code: 'edit.in_use' })))).toEqual([
    422,
    { fault: { code: 'edit.in_use' } },
  ]);
  expect(await answer(fail(Object.assign(new Error('write'), { code: 'ENOSPC' })))).toEqual([
    507,
    { fault: { code: 'store.disk_full' } },
  ]);
});

it('keeps the inside of an unexpected error to itself, and writes it down', async () => {
  const log = jest.spyOn(console, 'error').mockImplementation(() => undefined);
  expect(await answer(fail(new Error('password is hunter2')))).toEqual([
    500,
    { fault: { code: 'internal' } },
  ]);
  expect(log).toHaveBeenCalledTimes(1);
  log.mockRestore();
});

describe('a body', () => {
  const schema = yup
    .object({ name: yup.string().min(2).required(), count: yup.number().integer().required() })
    .noUnknown();
  const post = (body: string): Request => new Request('http://127.0.0.1/', { method: 'POST', body });
  const read = (body: string): Promise<[number, unknown]> => answer(() => readBody(post(body), schema));
  it('is taken when it fits', async () => {
    expect(await read('{"name":"ab","count":3}')).toEqual([200, { name: 'ab', count: 3 }]);
  });
  it('is refused with all that is wrong', async () => {
    const [status, value] = await read('{"name":"a","more":1}');
    expect(status).toBe(400);
    expect((value as { fault: { issues: string[] } }).fault.issues.length).toBeGreaterThanOrEqual(2);
  });
  it('is refused, not stumbled over, when an object stands where a text is trimmed', async () => {
    const trimmed = yup.object({ name: yup.string().trim().min(1).required() });
    for (const name of [{ id: 1 }, ['a']])
      expect((await answer(() => readBody(post(JSON.stringify({ name })), trimmed)))[0]).toBe(400);
    const request = post(JSON.stringify({ list: [{ name: 'a' }, { name: { id: 1 } }] }));
    const list = yup.object({ list: yup.array<yup.AnyObject, { name: string }>().required() });
    const [status, value] = await answer(() =>
      readBodyWithList(request, list, { key: 'list', entry: trimmed }),
    );
    expect([status, (value as { fault: { issues: string[] } }).fault.issues.length]).toEqual([400, 1]);
  });
  it('is refused when it is no JSON, too large, or empty', async () => {
    expect(await read('{')).toEqual([
      400,
      { fault: { code: 'request.invalid', issues: ['not readable as JSON'] } },
    ]);
    expect(await read(' '.repeat((1 << 20) + 1))).toEqual([
      400,
      { fault: { code: 'request.invalid', issues: ['too large'] } },
    ]);
    expect((await read(''))[0]).toBe(400);
  });
});

it('what no schema should have to look at is refused before', async () => {
  const read = (value: unknown): Promise<[number, unknown]> =>
    answer(() =>
      readBody(
        new Request('http://127.0.0.1/', { method: 'POST', body: JSON.stringify(value) }),
        yup.object(),
      ),
    );
  const refused = (issue: string): [number, unknown] => [
    400,
    { fault: { code: 'request.invalid', issues: [issue] } },
  ];
  expect(await read({ a: Array(100_001).fill(0) })).toEqual(refused('more than 100000 values'));
  expect(await read({ a: 'x\0y' })).toEqual(refused('a text holds a NUL character'));
  expect(await read({ 'a\0': 1 })).toEqual(refused('a text holds a NUL character'));
  expect(await read({ a: ['\ud800'] })).toEqual(refused('a text holds half a character (a lone surrogate)'));
  expect(await read({ a: '😀' })).toEqual([200, { a: '😀' }]);
  const deep = new Request('http://127.0.0.1/', {
    method: 'POST',
    body: `{"a":${'['.repeat(50_000)}${']'.repeat(50_000)}}`,
  });
  expect(await answer(() => readBody(deep, yup.object()))).toEqual(refused('deeper than 40 levels'));
});

it('a long list of bad entries ends early, and others get their turn between', async () => {
  const entry = yup.object({ n: yup.number().max(9).required() }).noUnknown();
  const schema = yup.object({ list: yup.array<yup.AnyObject, { n: number }>().max(5000).required() });
  const read = (list: unknown[]): Promise<[number, unknown]> =>
    answer(() =>
      readBodyWithList(
        new Request('http://127.0.0.1/', { method: 'POST', body: JSON.stringify({ list }) }),
        schema,
        { key: 'list', entry },
      ),
    );
  const [status, bad] = await read(Array(5000).fill({ n: 10 }));
  const { issues } = (bad as { fault: { issues: string[] } }).fault;
  expect([status, issues.length, issues[0]]).toEqual([400, 20, 'list[0]: n must be less than or equal to 9']);
  expect((await read(Array(5001).fill({ n: 1 })))[0]).toBe(400);
  let turns = 0;
  const clock = setInterval(() => turns++, 1);
  expect((await read(Array(5000).fill({ n: 1 })))[0]).toBe(200);
  clearInterval(clock);
  expect(turns).toBeGreaterThan(1);
});

it('a body without end is given up when it is too large', async () => {
  let sent = 0;
  const body = new ReadableStream<Uint8Array>({
    pull(controller) {
      sent++;
      controller.enqueue(new Uint8Array(1 << 20).fill(32));
    },
  });
  const endless = new Request('http://127.0.0.1/', { method: 'POST', body, duplex: 'half' } as RequestInit);
  expect(await answer(() => readBody(endless, yup.object()))).toEqual([
    400,
    { fault: { code: 'request.invalid', issues: ['too large'] } },
  ]);
  expect(sent).toBeLessThan(80);
});

describe('a body made on the way', () => {
  it('comes part by part, and its maker stops when the reader goes away', async () => {
    let made = 0;
    let told = false;
    const parts = async function* (): AsyncGenerator<Uint8Array> {
      try {
        for (; made < 100; made++) yield Uint8Array.of(made);
      } finally {
        told = true;
      }
    };
    const reader = bodyOf(parts()).getReader();
    expect((await reader.read()).value).toEqual(Uint8Array.of(0));
    expect((await reader.read()).value).toEqual(Uint8Array.of(1));
    await reader.cancel();
    expect([told, made < 10]).toEqual([true, true]);
  });
  it('ends where its parts end, and hands on what went wrong', async () => {
    const two = async function* (): AsyncGenerator<Uint8Array> {
      yield Uint8Array.of(1, 2);
      yield Uint8Array.of(3);
    };
    expect(new Uint8Array(await new Response(bodyOf(two())).arrayBuffer())).toEqual(Uint8Array.of(1, 2, 3));
    const broken = async function* (): AsyncGenerator<Uint8Array> {
      yield Uint8Array.of(1);
      throw new Error('gone');
    };
    await expect(new Response(bodyOf(broken())).arrayBuffer()).rejects.toThrow('gone');
  });
});
