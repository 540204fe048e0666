'use client';
import type { RefObject } from 'react';
import { Overlay, Tooltip } from 'react-bootstrap';

/** What is wrong with a field that has no room of its own for it; nothing while `text` is null. */
export function ErrorTip({
  target,
  text,
  id,
}: {
  readonly target: RefObject<HTMLElement | null>;
  readonly text: string | null;
  /** The field names it as its error. */
  readonly id: string;
}) {
  return (
    <Overlay show={text !== null} target={target} placement="bottom-start" transition={false}>
      <Tooltip id={id} className="fm-error-tip" role="alert">
        {text}
      </Tooltip>
    </Overlay>
  );
}
