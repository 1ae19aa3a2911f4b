/** The screens there are, the present one underlined. Drafts are kept before a page is left. */
export function Screens({ here, bench, grounds }: { here: 'bench' | 'grounds'; bench: string; grounds: string }) {
  const screens = [
    { id: 'bench', title: 'Bench', to: bench },
    { id: 'grounds', title: 'Grounds', to: grounds },
  ] as const;
  return (
    <nav aria-label="Screens" className="flex h-full shrink-0 items-stretch gap-1">
      {screens.map(({ id, title, to }) => (
        <a
          key={id}
          href={to}
          aria-current={id === here ? 'page' : undefined}
          className="flex items-center border-b-3 border-transparent px-2 text-ink-soft hover:text-ink aria-[current=page]:border-now aria-[current=page]:font-semibold aria-[current=page]:text-ink"
        >
          {title}
        </a>
      ))}
    </nav>
  );
}
