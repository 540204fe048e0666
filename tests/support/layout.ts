import type { Page } from '@playwright/test';

/** Least size of what is aimed at, CSS px (WCAG 2.2, success criterion 2.5.8); a hair less for rounding. */
const LEAST_TARGET = 23.5;

/** What of a page, as it stands, lies outside of the window or of what cuts it off, overlaps, or is too small to aim at: words for people, empty = nothing. */
export async function layoutFindings(page: Page): Promise<string[]> {
  return page.evaluate((least) => {
    const TARGETS = 'button, a[href], input:not([type=file]), select, textarea';
    const root = document.querySelector('.modal.show') ?? document.body;
    const pageScrolls = document.documentElement.scrollHeight > innerHeight + 1 && root === document.body;
    const called = (e: Element): string =>
      `${e.tagName.toLowerCase()}.${[...e.classList].join('.')} “${(e.getAttribute('aria-label') ?? e.textContent ?? '').trim().slice(0, 40)}”`;
    const isSeen = (e: Element): boolean => {
      const { width, height } = e.getBoundingClientRect();
      return (
        width > 1.5 &&
        height > 1.5 &&
        e.checkVisibility({ visibilityProperty: true, opacityProperty: true }) &&
        e.closest('.fm-unseen, .visually-hidden, [aria-hidden=true]') === null
      );
    };
    /** What is left of the window for an element by what cuts it off; where one can scroll to it, nothing cuts. */
    const roomOf = (e: Element): { left: number; right: number; top: number; bottom: number } => {
      const far = 1e9;
      const room = pageScrolls
        ? { left: 0, right: innerWidth, top: -far, bottom: far }
        : { left: 0, right: innerWidth, top: 0, bottom: innerHeight };
      let [across, down] = [false, false];
      for (let p = e.parentElement; p; p = p.parentElement) {
        const { overflowX, overflowY, position } = getComputedStyle(p);
        across ||= /auto|scroll/.test(overflowX) && p.scrollWidth > p.clientWidth;
        down ||= /auto|scroll/.test(overflowY) && p.scrollHeight > p.clientHeight;
        const box = p.getBoundingClientRect();
        if (overflowX !== 'visible' && !across) {
          room.left = Math.max(room.left, box.left);
          room.right = Math.min(room.right, box.right);
        }
        if (overflowY !== 'visible' && !down) {
          room.top = Math.max(room.top, box.top);
          room.bottom = Math.min(room.bottom, box.bottom);
        }
        if (position === 'fixed') break;
      }
      if (across) [room.left, room.right] = [-far, far];
      if (down) [room.top, room.bottom] = [-far, far];
      return room;
    };
    const findings: string[] = [];
    for (const e of root.querySelectorAll(`${TARGETS}, h1, h2, h3, label, th, td, p, [role=gridcell]`)) {
      if (!isSeen(e)) continue;
      const [box, room] = [e.getBoundingClientRect(), roomOf(e)];
      if (
        box.left < room.left - 1 ||
        box.right > room.right + 1 ||
        box.top < room.top - 1.5 ||
        box.bottom > room.bottom + 1.5
      )
        findings.push(`outside: ${called(e)}`);
      const isInline = e.tagName === 'A' && getComputedStyle(e).display === 'inline';
      if (!e.matches(TARGETS) || isInline || (e as HTMLButtonElement).disabled) continue;
      const aimed = [e, ...((e as HTMLInputElement).labels ?? [])].map((x) => x.getBoundingClientRect());
      const isCut = e.scrollWidth > e.clientWidth + 1 && getComputedStyle(e).textOverflow !== 'ellipsis';
      if (e.matches('button, a') && isCut) findings.push(`its words do not fit: ${called(e)}`);
      if (!aimed.some((b) => b.width >= least && b.height >= least)) findings.push(`small: ${called(e)}`);
    }
    const targets = [...root.querySelectorAll(TARGETS)].filter(
      // A link in a text may break over lines: its box says nothing.
      (e) => isSeen(e) && !e.closest('.dropdown-menu, .tooltip') && getComputedStyle(e).display !== 'inline',
    );
    targets.forEach((a, i) => {
      const [x, ra] = [a.getBoundingClientRect(), roomOf(a)];
      for (const b of targets.slice(i + 1)) {
        if (a.contains(b) || b.contains(a)) continue;
        const [y, rb] = [b.getBoundingClientRect(), roomOf(b)];
        const across = Math.min(x.right, y.right, ra.right, rb.right) - Math.max(x.left, y.left);
        const down =
          Math.min(x.bottom, y.bottom, ra.bottom, rb.bottom) - Math.max(x.top, y.top, ra.top, rb.top);
        if (across > 2 && down > 2) findings.push(`overlap: ${called(a)} and ${called(b)}`);
      }
    });
    if (document.documentElement.scrollWidth > innerWidth + 1)
      findings.push(`the page is ${document.documentElement.scrollWidth} px wide`);
    return [...new Set(findings)];
  }, LEAST_TARGET);
}
