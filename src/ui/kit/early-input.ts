/** Something given to a page before it could answer: an event to send again, or what then stood in a field. */
export type EarlyInput =
  { readonly event: Event; readonly chosen?: string } | { readonly field: HTMLInputElement; text: string };

interface Held {
  readonly inputs: EarlyInput[];
  /** From here on events go their way. */
  readonly release: () => void;
}

declare global {
  interface Window {
    fernmossEarly?: Held;
  }
}

/**
 * Holds what is clicked, typed and pressed until the page's own code is there, which on a slow machine takes seconds:
 * nothing given to a page that is already to be seen may be lost. Stands as text in the page's head, so it uses nothing
 * from outside of itself.
 */
export function holdEarlyInput(): void {
  const inputs: EarlyInput[] = [];
  const within = (target: EventTarget | null, selector: string): boolean =>
    target instanceof Element && target.closest(selector) !== null;
  const isTyping = (target: EventTarget | null): boolean =>
    within(target, 'input:not([type=checkbox], [type=radio], [type=range], [type=file]), textarea, select');
  const isChoosing = (target: EventTarget | null): boolean => within(target, 'input[type=file], select');
  const isKey = ({ target, key, ctrlKey, metaKey }: KeyboardEvent): boolean => {
    const mod = ctrlKey || metaKey;
    if (key === 'Enter') return mod || !within(target, 'a, button, summary, form');
    if (mod) return key.toLowerCase() === 'z' && !isTyping(target);
    return (
      key.length === 1 && !isTyping(target) && !(key === ' ' && within(target, 'button, summary, input'))
    );
  };
  const isSame = (a: Event, b: Event): boolean =>
    a.type === b.type &&
    a.type !== 'drop' &&
    a.target === b.target &&
    (!(a instanceof KeyboardEvent && b instanceof KeyboardEvent) || a.key === b.key);
  // What a drop carries can be asked for only while it happens.
  const keepDropped = (event: DragEvent): void => {
    const items = [...(event.dataTransfer?.items ?? [])].map((item) => item.webkitGetAsEntry());
    const carried = {
      items: items.map((entry) => ({ webkitGetAsEntry: () => entry })),
      files: [...(event.dataTransfer?.files ?? [])],
    };
    Object.defineProperty(event, 'dataTransfer', { value: carried });
  };
  const holdTyped = ({ target }: Event): void => {
    if (!(target instanceof HTMLInputElement) || !isTyping(target)) return;
    const last = inputs.at(-1);
    if (last && 'field' in last && last.field === target) last.text = target.value;
    else inputs.push({ field: target, text: target.value });
  };
  const isOurs = (event: Event): boolean => {
    if (event instanceof KeyboardEvent) return isKey(event);
    if (event.type === 'change') return isChoosing(event.target);
    if (event.type === 'click')
      return within(event.target, 'button, input[type=checkbox], input[type=radio]');
    return true;
  };
  const hold = (event: Event): void => {
    if (event.type === 'input') holdTyped(event);
    if (event.type === 'input' || !isOurs(event)) return;
    event.preventDefault();
    event.stopImmediatePropagation();
    // Else the browser leaves the page for the file that is dropped.
    if (event.type === 'dragover') return;
    if (event.type === 'drop') keepDropped(event as DragEvent);
    // Who gets no answer presses again, and means it once.
    const last = inputs.at(-1);
    if (last && 'event' in last && isSame(last.event, event)) inputs.pop();
    inputs.push(
      event.target instanceof HTMLSelectElement ? { event, chosen: event.target.value } : { event },
    );
  };
  const kinds = ['keydown', 'click', 'submit', 'input', 'change', 'dragover', 'drop'];
  for (const kind of kinds) window.addEventListener(kind, hold, true);
  window.fernmossEarly = {
    inputs,
    release: () => {
      for (const kind of kinds) window.removeEventListener(kind, hold, true);
    },
  };
}

/** Text as if it were typed now: set past the page's own notice of the value, so that the event tells of a change. */
function typeInto(field: HTMLInputElement, text: string): void {
  const plain = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value');
  field.value = text === '' ? ' ' : '';
  plain?.set?.call(field, text);
  field.dispatchEvent(new Event('input', { bubbles: true }));
}

function sendDropped(target: Element, dataTransfer: DataTransfer | null): void {
  const drop = new Event('drop', { bubbles: true, cancelable: true });
  target.dispatchEvent(Object.defineProperty(drop, 'dataTransfer', { value: dataTransfer }));
}

function sendAgain({ event, chosen }: { readonly event: Event; readonly chosen?: string }): void {
  const { target } = event;
  if (!(target instanceof Element) || !target.isConnected) return;
  if (event instanceof SubmitEvent) {
    if (target instanceof HTMLFormElement) target.requestSubmit(event.submitter);
  } else if (event instanceof KeyboardEvent) target.dispatchEvent(new KeyboardEvent(event.type, event));
  else if (event.type === 'drop') sendDropped(target, (event as DragEvent).dataTransfer);
  else if (event.type === 'change') {
    if (target instanceof HTMLSelectElement && chosen !== undefined) target.value = chosen;
    target.dispatchEvent(new Event('change', { bubbles: true }));
  } else target.dispatchEvent(new MouseEvent(event.type, event));
}

/** Does, in its order, what was given to the page while it could not answer. */
export async function answerEarlyInput(): Promise<void> {
  const held = window.fernmossEarly;
  delete window.fernmossEarly;
  held?.release();
  for (const input of held?.inputs ?? []) {
    if ('event' in input) sendAgain(input);
    else if (input.field.isConnected) typeInto(input.field, input.text);
    // What it changed is drawn before the next is done.
    await new Promise((done) => setTimeout(done));
  }
}
