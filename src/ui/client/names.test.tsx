import { renderHook, waitFor } from '@testing-library/react';
import { readNames } from '@/core/naming';
import { answerNames } from '@/engine/answer-names';
import { answerNamesWith, type AnswerNames, isUnread, KnownNames, useNamesAnswer } from './names';

const AT_ONCE: AnswerNames = (question) => Promise.resolve(answerNames(question) as never);

it('has names read once, tells when they are, and keeps what it knew of them in other company', async () => {
  let asked = 0;
  const known = new KnownNames((question) => {
    asked++;
    return AT_ONCE(question);
  });
  const names = ['Kick.wav', 'Snare.wav', 'OH L.wav'];
  expect(known.read(names).every(isUnread)).toBe(true);
  expect(known.stateOf(names)).toBe('reading');
  // The same list until more is known: what is made of it is made once.
  expect(known.read([...names])).toBe(known.read(names));
  await known.whenRead(names);
  expect(known.read(names)).toEqual(readNames(names));
  expect([known.stateOf(names), known.version(), asked]).toEqual(['read', 1, 1]);
  const more = known.read([...names, 'Bass.wav']);
  expect(more.map(isUnread)).toEqual([false, false, false, true]);
  await known.whenRead([...names, 'Bass.wav']);
  expect(known.read([...names, 'Bass.wav'])[3]).toMatchObject({ family: 'bass' });
  // Words of the house are another question, no names are none.
  expect(known.stateOf(names, [{ text: 'kick', family: 'keys', part: null }])).toBe('reading');
  expect(known.stateOf([])).toBe('read');
  expect(asked).toBe(3);
});

it('says that names could not be read, and asks again later', async () => {
  jest.useFakeTimers();
  let fails = true;
  const known = new KnownNames((question) => (fails ? Promise.reject(new Error('gone')) : AT_ONCE(question)));
  known.read(['Kick.wav']);
  await known.whenRead(['Kick.wav']);
  expect(known.stateOf(['Kick.wav'])).toBe('failed');
  fails = false;
  jest.advanceTimersByTime(6000);
  jest.useRealTimers();
  expect(known.stateOf(['Kick.wav'])).toBe('reading');
  await known.whenRead(['Kick.wav']);
  expect(known.read(['Kick.wav'])[0]).toMatchObject({ family: 'drums', part: 'kick' });
});

it('asks what depends on one track, and answers nothing old', async () => {
  let asked = 0;
  answerNamesWith((question) => {
    asked++;
    return AT_ONCE(question);
  });
  const names = ['Jangle 1.wav', 'Jangle 2.wav', 'Kick.wav'];
  const { result, rerender } = renderHook(
    ({ at }: { at: number }) =>
      useNamesAnswer<'siblings'>(() => ({ kind: 'siblings', names, at, own: [], junk: [] }), [at]),
    { initialProps: { at: 0 } },
  );
  expect(result.current).toBeNull();
  await waitFor(() => expect(result.current).toEqual([1]));
  // Drawn again it is the same question.
  rerender({ at: 0 });
  expect([result.current, asked]).toEqual([[1], 1]);
  rerender({ at: 2 });
  expect(result.current).toBeNull();
  await waitFor(() => expect(result.current).toEqual([]));
});

it('forgets lists that nobody asks for any more, never those in use', async () => {
  let asked = 0;
  const known = new KnownNames((question) => {
    asked++;
    return AT_ONCE(question);
  });
  const inUse = ['Kick.wav'];
  known.read(inUse);
  await known.whenRead(inUse);
  for (let i = 0; i < 30; i++) {
    await known.whenRead([`Gtr ${i}.wav`]);
    expect(known.stateOf(inUse)).toBe('read');
  }
  expect(asked).toBe(31);
});

it('what the server read with the page is known from the start', () => {
  const known = new KnownNames(() => Promise.reject(new Error('nobody is to be asked')));
  const asked = { names: ['Kick.wav'], own: [], junk: [] };
  known.know({ ...asked, readings: readNames(asked.names) });
  expect(known.stateOf(['Kick.wav'])).toBe('read');
  expect(known.read(['Kick.wav'])[0]).toMatchObject({ family: 'drums', part: 'kick' });
});

it('of lists that follow one another while names are read, only the last is read as well', async () => {
  const read: number[] = [];
  const known = new KnownNames((question) => {
    read.push(question.names.length);
    return AT_ONCE(question);
  });
  const list = (length: number): string[] => Array.from({ length }, (_, i) => `Gtr ${i}.wav`);
  for (let n = 1; n <= 20; n++) known.read(list(n));
  await known.whenRead(list(20));
  expect(read).toEqual([1, 20]);
  // One that was passed over is read once it is asked for again.
  await known.whenRead(list(7));
  expect([read, known.stateOf(list(7))]).toEqual([[1, 20, 7], 'read']);
});
