import { act, render, screen } from '@testing-library/react';
import { later } from './later';

it('asks again while the server is away, says so, and shows the rest of the page meanwhile', async () => {
  jest.useFakeTimers();
  let asked = 0;
  const Panel = later<{ readonly name: string }>(
    () => {
      asked++;
      return asked < 3
        ? Promise.reject(new Error('no chunk'))
        : Promise.resolve(({ name }: { readonly name: string }) => <p>Hello {name}</p>);
    },
    <i>room</i>,
  );
  const page = (
    <>
      <h1>Page</h1>
      <Panel name="Nine" />
    </>
  );
  const { unmount } = render(page);
  expect(screen.getByText('room')).toBeTruthy();
  await act(() => jest.advanceTimersByTimeAsync(10));
  expect([screen.getByRole('alert').textContent, screen.getByText('Page').tagName]).toEqual([
    'Fernmoss does not answer. This opens once it does.',
    'H1',
  ]);
  await act(() => jest.advanceTimersByTimeAsync(2500));
  expect([screen.getByText('Hello Nine').tagName, asked]).toEqual(['P', 3]);
  unmount();
  // Once there it is there.
  render(page);
  expect([screen.getByText('Hello Nine').tagName, asked]).toEqual(['P', 3]);
  jest.useRealTimers();
});
