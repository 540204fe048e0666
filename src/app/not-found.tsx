import Link from 'next/link';

export default function NotFound() {
  return (
    <div className="fm-empty">
      <p>This is not here any more.</p>
      <p className="fm-faint">The session was deleted, or the address is wrong.</p>
      <Link className="fm-button" href="/">
        All sessions
      </Link>
    </div>
  );
}
