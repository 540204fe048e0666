import type { CDPSession, Page } from '@playwright/test';

interface AxNode {
  readonly ignored: boolean;
  readonly role?: { readonly value: string };
  readonly name?: { readonly value: string };
  readonly properties?: readonly { readonly name: string; readonly value: { readonly value?: unknown } }[];
}

/** What one aims at, or is told of, and so has to have a name. */
const NAMED = new Set([
  ...['button', 'link', 'textbox', 'searchbox', 'checkbox', 'radio', 'switch', 'combobox', 'listbox'],
  ...['slider', 'spinbutton', 'menuitem', 'tab', 'option', 'image', 'img', 'dialog', 'alertdialog'],
  ...['treegrid', 'grid', 'columnheader', 'region', 'navigation', 'complementary', 'progressbar'],
]);

const sessions = new WeakMap<Page, Promise<CDPSession>>();
const sessionOf = (page: Page): Promise<CDPSession> => {
  const known = sessions.get(page) ?? page.context().newCDPSession(page);
  sessions.set(page, known);
  return known;
};

/** The tree that a screen reader walks, as the browser gives it. */
async function readerTree(page: Page): Promise<readonly AxNode[]> {
  const cdp = await sessionOf(page);
  const { nodes } = (await cdp.send('Accessibility.getFullAXTree')) as unknown as {
    nodes: readonly AxNode[];
  };
  return nodes.filter((n) => !n.ignored);
}

const nameOf = (n: AxNode): string => (n.name?.value ?? '').trim();
const propertyOf = (n: AxNode, name: string): unknown =>
  n.properties?.find((p) => p.name === name)?.value.value;

/** What a screen reader stumbles over: things without a name, no main part or two, no heading of the page or two, two parts of a kind with one name. Empty = nothing. */
export async function readerFindings(page: Page): Promise<string[]> {
  const nodes = await readerTree(page);
  const of = (role: string): readonly AxNode[] => nodes.filter((n) => n.role?.value === role);
  const hasDialog = of('dialog').length + of('alertdialog').length > 0;
  const titles = of('heading').filter((n) => propertyOf(n, 'level') === 1);
  const parts = ['navigation', 'region', 'complementary'].flatMap((role) =>
    of(role).map((n) => `${role} “${nameOf(n)}”`),
  );
  return [
    ...nodes
      .filter((n) => NAMED.has(n.role?.value ?? '') && nameOf(n) === '')
      .map((n) => `no name: ${n.role?.value}`),
    ...(hasDialog || of('main').length === 1 ? [] : [`${of('main').length} main parts`]),
    ...(hasDialog || titles.length === 1 ? [] : [`${titles.length} headings of the page`]),
    ...parts.filter((p, i) => parts.indexOf(p) !== i).map((p) => `twice: ${p}`),
  ];
}

/** What the keyboard is on, as a screen reader would say it: role and name; null = nothing. */
export async function focusedOn(page: Page): Promise<string | null> {
  const cdp = await sessionOf(page);
  const { result } = await cdp.send('Runtime.evaluate', { expression: 'document.activeElement' });
  if (!result.objectId || result.className === 'HTMLBodyElement') return null;
  const { nodes } = (await cdp.send('Accessibility.getPartialAXTree', {
    objectId: result.objectId,
    fetchRelatives: false,
  })) as unknown as { nodes: readonly AxNode[] };
  const [focused] = nodes;
  return focused ? `${focused.role?.value} “${nameOf(focused)}”` : null;
}

/** Presses Tab until the keyboard is on what is called so. */
export async function tabTo(page: Page, name: RegExp, most = 80): Promise<void> {
  for (let i = 0; i < most; i++) {
    await page.keyboard.press('Tab');
    if (name.test((await focusedOn(page)) ?? '')) return;
  }
  throw new Error(`${most} × Tab do not lead to ${name}`);
}
