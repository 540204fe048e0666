import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { NoStrayDrops } from './no-stray-drops';

afterEach(cleanup);

it('refuses files where nothing takes them, and leaves alone what is taken or no file', () => {
  render(
    <>
      <NoStrayDrops />
      <p>Sheet</p>
      <section aria-label="Intake" onDragOver={(e) => e.preventDefault()} />
    </>,
  );
  const over = (element: HTMLElement, types: string[]): { isFree: boolean; dropEffect: string } => {
    const dataTransfer = { types, dropEffect: 'copy' };
    return { isFree: fireEvent.dragOver(element, { dataTransfer }), dropEffect: dataTransfer.dropEffect };
  };
  expect(over(screen.getByText('Sheet'), ['Files'])).toEqual({ isFree: false, dropEffect: 'none' });
  expect(over(screen.getByText('Sheet'), ['text/plain'])).toEqual({ isFree: true, dropEffect: 'copy' });
  expect(over(screen.getByLabelText('Intake'), ['Files'])).toEqual({ isFree: false, dropEffect: 'copy' });
});
