/** The mark: a foot with two toes ahead and two behind. */
export function Mark() {
  return (
    <svg width="22" height="24" viewBox="0 0 22 24" fill="none" strokeLinecap="round" strokeWidth="3.2" aria-hidden="true">
      <path d="M4 3c1 4 4 7 7 9 3 2 6 5 7 9M18 3c-1 4-4 7-7 9" className="stroke-ink" />
      <path d="M11 12c-3 2-6 5-7 9" className="stroke-now" />
    </svg>
  );
}
