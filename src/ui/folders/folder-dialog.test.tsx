import { fireEvent, render, screen, waitFor } from '@testing-library/react';
import { FolderDialog } from './folder-dialog';

const view = (path: string | null, folders: readonly string[]) => ({
  path,
  parent: null,
  folders: folders.map((f) => ({ name: f, path: `${path ?? ''}/${f}` })),
  files: [],
  otherFiles: 0,
  freeBytes: 1e9,
});

it('chooses nothing while a folder gone to has not answered yet', async () => {
  let answer: (() => void) | null = null;
  global.fetch = jest.fn(async (url: string) => {
    if (url.includes('inner'))
      await new Promise<void>((done) => {
        answer = done;
      });
    return {
      ok: true,
      status: 200,
      json: () =>
        Promise.resolve(
          url.includes('inner')
            ? view('/library/inner', [])
            : url.includes('library')
              ? view('/library', ['inner'])
              : view(null, ['library']),
        ),
    } as Response;
  }) as unknown as typeof fetch;
  const chosen: string[] = [];
  render(
    <FolderDialog
      title="Where"
      confirm="Here"
      use=""
      onClose={() => undefined}
      onChoose={(p) => chosen.push(p)}
    />,
  );
  fireEvent.click(await screen.findByRole('button', { name: 'library' }));
  fireEvent.click(await screen.findByRole('button', { name: 'inner' }));
  const here = screen.getByRole('button', { name: 'Here' });
  fireEvent.click(here);
  expect(chosen).toEqual([]);
  await waitFor(() => expect(answer).not.toBeNull());
  (answer as unknown as () => void)();
  await waitFor(() => expect(here).toHaveProperty('disabled', false));
  fireEvent.click(here);
  expect(chosen).toEqual(['/library/inner']);
});
