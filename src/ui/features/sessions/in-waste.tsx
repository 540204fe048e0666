'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { type Fault, faultText } from '@/contracts';
import { api, faultOf } from '@/ui/client';
import { Button } from '@/ui/kit';

/** In place of a session that lies in the waste basket: it can be put back, and is opened then. */
export function InWaste({ id, name }: { readonly id: string; readonly name: string }) {
  const router = useRouter();
  const [fault, setFault] = useState<Fault | null>(null);
  const putBack = (): void =>
    void api('/api/sessions/shelf', 'POST', { ids: [id], shelf: 'list' }).then(
      () => router.refresh(),
      (cause: unknown) => setFault(faultOf(cause)),
    );
  return (
    <main className="fm-empty">
      <h1>“{name}” lies in the waste basket.</h1>
      <p className="fm-faint">Everything in it is kept. Put back, it is as it was.</p>
      {fault && <p role="alert">{faultText(fault)}</p>}
      <p>
        <Button tone="main" onClick={putBack}>
          Put it back
        </Button>{' '}
        <Link className="fm-button" href="/">
          All sessions
        </Link>
      </p>
    </main>
  );
}
