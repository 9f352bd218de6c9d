/** The product's mark, in the page itself so that no page waits for a file. */
export function Mark({ className }: { className: string }) {
  return (
    <svg viewBox="0 0 32 32" aria-hidden="true" className={className}>
      <path d="M2 6h28v9c-9 0-9 5-14 5S8 18 2 18z" fill="#0f7a80" />
      <path d="M10 22c5 0 5 3 5 8h-4c0-3 0-4-3-4z" fill="#c4441b" />
    </svg>
  );
}
