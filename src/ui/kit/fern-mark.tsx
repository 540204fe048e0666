/** The mark: a fern frond, drawn by us. */
export function FernMark() {
  return (
    <svg viewBox="0 0 24 24" width="26" height="26" className="fm-mark" aria-hidden="true">
      <path d="M12 22V4M12 18c-4 0-6-2-7-5c4 0 6 1 7 5M12 18c4 0 6-2 7-5c-4 0-6 1-7 5M12 12.500c-3 0-5-1.500-5.500-4c3 0 5 1 5.500 4M12 12.500c3 0 5-1.500 5.500-4c-3 0-5 1-5.500 4M12 7c-1.800-.500-3-2-3-4c2 .500 3 2 3 4M12 7c1.800-.500 3-2 3-4c-2 .500-3 2-3 4" />
    </svg>
  );
}
