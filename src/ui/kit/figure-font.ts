/** The letters of figures for a canvas, whose `font` knows no variables of the page. */
export const figureFont = (px: number, weight = 400): string => {
  const families = getComputedStyle(document.documentElement).getPropertyValue('--bs-font-monospace').trim();
  return `${weight} ${px}px ${families || 'monospace'}`;
};
