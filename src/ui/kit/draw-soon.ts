/** What drawings of one frame may take together, ms; the rest of a frame belongs to scrolling and to what is typed. */
const BUDGET_MS = 5;

const waiting = new Set<() => void>();
let spent = 0;
let asked = false;

function ask(): void {
  if (asked) return;
  asked = true;
  requestAnimationFrame(() => {
    asked = false;
    spent = 0;
    for (const draw of waiting) {
      if (spent >= BUDGET_MS) break;
      waiting.delete(draw);
      run(draw);
    }
    if (waiting.size > 0) ask();
  });
}

function run(draw: () => void): void {
  const begin = performance.now();
  draw();
  spent += performance.now() - begin;
}

/** Draws now, or in one of the next frames when this one has had its share: many waveforms that come at once must not hold up a picture. Returns what takes it back. */
export function drawSoon(draw: () => void): () => void {
  if (spent < BUDGET_MS && waiting.size === 0) {
    run(draw);
    ask();
    return () => undefined;
  }
  waiting.add(draw);
  ask();
  return () => void waiting.delete(draw);
}
