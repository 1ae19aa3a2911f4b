import { useStore } from '@nanostores/react';
import { useEffect, useRef, useState } from 'react';
import { $theme } from '../chart/theme.ts';
import { HEIGHT, type Pictures, WIDTH } from './pictures.ts';
import { Soundings } from './Soundings.tsx';
import { Standing } from './Standing.tsx';
import { type ShelfItem, useShelf } from './shelfWork.ts';

/** Something that can be done with a document. */
export interface RowAction {
  label: string;
  run(): void;
}

/** A document on the shelf: its picture, its numbers, its revisions, and how it stands. */
export function ShelfRow({ item, pictures, actions }: { item: ShelfItem; pictures: Pictures; actions: readonly RowAction[] }) {
  const shelf = useShelf();
  const isPicked = useStore(shelf.$picked) === item.id;
  const row = useRef<HTMLLIElement>(null);
  const [isSeen, see] = useState(false);
  useEffect(() => {
    const element = row.current;
    if (!element) return;
    const watch = new IntersectionObserver((seen) => seen.some(({ isIntersecting }) => isIntersecting) && see(true));
    watch.observe(element);
    return () => watch.disconnect();
  }, []);
  return (
    <li
      ref={row}
      data-doc={item.name}
      className={`grid h-[100px] grid-cols-[200px_minmax(0,1fr)_354px_minmax(240px,290px)] items-start border-b border-rule px-4 pt-2.5 max-[1140px]:grid-cols-[200px_minmax(0,1fr)_360px] ${isPicked ? 'border-l-4 border-l-now bg-sheet pl-3' : ''}`}
    >
      <Picture item={item} pictures={pictures} isSeen={isSeen} />
      <div className="min-w-0 pr-4">
        <button
          type="button"
          aria-pressed={isPicked}
          className="block max-w-full truncate text-left text-[15px] leading-5 font-semibold hover:underline"
          onClick={() => shelf.pick(item.id)}
          onDoubleClick={() => actions[0]?.run()}
        >
          {item.name}
        </button>
        <p className="digits truncate text-[13px] text-ink-soft">{item.line}</p>
        {item.groundName && <p className="truncate text-ink-soft">on {item.groundName}</p>}
        {isPicked && (
          <p className="mt-0.5 flex gap-2.5 whitespace-nowrap">
            {actions.map(({ label, run }) => (
              <button key={label} type="button" className="action min-h-6 text-[12.5px]" onClick={run}>
                {label}
              </button>
            ))}
          </p>
        )}
      </div>
      <Soundings item={item} />
      <div className="pt-2 max-[1140px]:hidden">
        {item.kind === 'tuning' && <Standing item={item} pictures={pictures} isSeen={isSeen} />}
      </div>
    </li>
  );
}

function Picture({ item, pictures, isSeen }: { item: ShelfItem; pictures: Pictures; isSeen: boolean }) {
  const theme = useStore($theme);
  const [address, show] = useState<string | null>(null);
  const stamp = useStore(pictures.$stamp);
  // biome-ignore lint/correctness/useExhaustiveDependencies: drawn again in another theme, and when anything has changed
  useEffect(() => {
    if (!isSeen || item.kind === 'targets' || item.kind === 'sweep') return;
    let current = true;
    pictures
      .picture(item)
      .then((blob) => {
        if (current) show(URL.createObjectURL(blob));
      })
      .catch(() => undefined);
    return () => {
      current = false;
    };
  }, [item, stamp, theme, isSeen, pictures]);
  // A picture stays on the page until the next one is ready.
  useEffect(() => () => void (address && URL.revokeObjectURL(address)), [address]);
  const size = { width: WIDTH, height: HEIGHT };
  return address ? (
    <img src={address} alt="" className="border border-rule" style={size} data-testid="picture" />
  ) : (
    <span aria-hidden="true" className="block border border-rule bg-sheet" style={size} />
  );
}
