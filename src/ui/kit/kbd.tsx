/** A key, shown as one. */
export function Kbd({ children }: { readonly children: string }) {
  return <kbd className="fm-kbd">{children}</kbd>;
}
