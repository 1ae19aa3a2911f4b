/** Shows why something failed, in its place, with a button to retry. */
export function Failed({ why, retry, className = '' }: { why: string; retry(): void; className?: string }) {
  return (
    <p role="alert" className={className}>
      <span className="text-now">▲ {why}</span>{' '}
      <button type="button" className="action" onClick={retry}>
        Try again
      </button>
    </p>
  );
}
