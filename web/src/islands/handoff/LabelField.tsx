/** The purpose of a hand-off, such as a build number; may be empty. */
export function LabelField({ label, set }: { label: string; set(label: string): void }) {
  return (
    <input
      aria-label="What it is for"
      data-work=""
      placeholder="for build …"
      maxLength={120}
      className="w-28 border-b border-rule bg-transparent"
      value={label}
      onChange={(event) => set(event.target.value)}
    />
  );
}
