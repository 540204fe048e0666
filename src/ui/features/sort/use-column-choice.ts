import { createContext, useContext, useState } from 'react';
import { COLUMNS_COOKIE } from './columns-cookie';
import { type ColumnChoice, keptText, readChoice } from './sheet-columns';

const A_YEAR_SECONDS = 365 * 86_400;

/** What was kept when the page was asked for. */
export const KeptColumns = createContext<string | undefined>(undefined);

/** The columns of this person, kept in this browser. */
export function useColumnChoice(): readonly [ColumnChoice, (choice: ColumnChoice) => void] {
  const kept = useContext(KeptColumns);
  const [choice, setChoice] = useState(() => readChoice(kept));
  return [
    choice,
    (next) => {
      setChoice(next);
      document.cookie = `${COLUMNS_COOKIE}=${encodeURIComponent(keptText(next))}; path=/; max-age=${A_YEAR_SECONDS}; samesite=strict`;
    },
  ];
}
