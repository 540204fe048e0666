'use client';
import { type ComponentType, type ReactNode, useEffect, useState } from 'react';

const RETRY_MS = 1000;

/**
 * A component whose code comes when it is first shown. While the server is away it is asked for again, and that is said:
 * nothing else of the page suffers. `meanwhile` keeps its room.
 */
export function later<Props extends object>(
  load: () => Promise<ComponentType<Props>>,
  meanwhile: ReactNode = null,
): ComponentType<Props> {
  let known: ComponentType<Props> | null = null;
  return function Later(props: Props) {
    const [Loaded, setLoaded] = useState(() => known);
    const [isAway, setAway] = useState(false);
    useEffect(() => {
      if (known) return undefined;
      let timer: ReturnType<typeof setTimeout> | undefined;
      let isWanted = true;
      const ask = (): void =>
        void load().then(
          (component) => {
            known = component;
            if (isWanted) setLoaded(() => component);
          },
          () => {
            if (!isWanted) return;
            setAway(true);
            timer = setTimeout(ask, RETRY_MS);
          },
        );
      ask();
      return () => {
        isWanted = false;
        clearTimeout(timer);
      };
    }, []);
    if (Loaded) return <Loaded {...props} />;
    if (!isAway) return meanwhile;
    return (
      <div className="fm-later" role="alert">
        Fernmoss does not answer. This opens once it does.
      </div>
    );
  };
}
