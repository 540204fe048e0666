'use client';
import type { ReactNode } from 'react';
import type { ReadList, SessionView } from '@/contracts';
import { CloseLook } from '@/ui/close-look';
import {
  useFirstNames,
  SessionProvider,
  useKeptPlace,
  useLaterPatterns,
  useSession,
  useUploadWarning,
  WithLibraries,
} from '@/ui/client';
import { PlayerProvider } from '@/ui/listening';
import { FirstWalk } from './first-walk';
import { GlobalKeys } from './global-keys';
import { JobNews } from './job-news';
import { Notices } from './notices';
import { PlayerBridge } from './player-bridge';
import { Rail } from './rail';
import { Songline } from './songline';
import { TopBar } from './top-bar';

/** Everything around a stage: top bar, rail, songline, notices, keys. */
export function SessionFrame({
  initial,
  names,
  children,
}: {
  readonly initial: SessionView;
  /** Its names as the server read them; none = not yet. */
  readonly names: readonly ReadList[];
  readonly children: ReactNode;
}) {
  useFirstNames(names);
  useKeptPlace(initial.id);
  useUploadWarning();
  return (
    <SessionProvider initial={initial}>
      <WithStyle>
        <PlayerProvider>
          <PlayerBridge />
          <GlobalKeys />
          <JobNews />
          <div className="fm-frame">
            <TopBar />
            <Rail />
            <main className="fm-stage">
              <FirstWalk />
              <Notices />
              {children}
            </main>
            <CloseLook />
            <section className="fm-song-area" aria-label="The song">
              <Songline />
            </section>
          </div>
        </PlayerProvider>
      </WithStyle>
    </SessionProvider>
  );
}

/** With what the style of the session asks for, now and later. */
function WithStyle({ children }: { readonly children: ReactNode }) {
  useLaterPatterns();
  return <WithLibraries patternsOf={useSession((s) => s.view.style)}>{children}</WithLibraries>;
}
