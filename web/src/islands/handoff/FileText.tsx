import type { HandedOver, HandOffChange } from '@zygopod/code/constants';

/** The file as it is written, with a mark at each line that is not as it was handed over last; or why nothing can be written. */
export function FileText({ handed, changes, comment }: { handed: HandedOver; changes: readonly HandOffChange[]; comment: string | null }) {
  if (handed.faults.length > 0)
    return (
      <div className="mt-2 border border-now p-3" role="alert">
        <p className="font-semibold text-now">
          ▲ Nothing is written: these cannot be said in {handed.writer.title} with these units and names.
        </p>
        <ul className="mt-1">
          {handed.faults.map(({ path, why }) => (
            <li key={`${path} ${why}`}>
              <span className="digits text-xs text-ink-soft">{path}</span> {why}
            </li>
          ))}
        </ul>
      </div>
    );
  const changed = new Map(changes.map((change) => [change.name, change]));
  const lines = handed.text.replace(/\n$/, '').split('\n');
  return (
    <pre
      data-testid="file-text"
      tabIndex={0}
      className="digits mt-2 min-h-0 flex-1 overflow-auto border border-rule bg-sheet py-2 text-[13px] leading-[19px]"
    >
      {lines.map((line, i) => {
        const change = [...line.matchAll(/[\p{L}_][\p{L}\p{N}_]*/gu)].map(([word]) => changed.get(word)).find(Boolean);
        const code = comment !== null && line.includes(comment === '//' ? '/' : comment) ? line.search(/\s(\/\/|\/\*|#|--)\s/) : -1;
        return (
          <span
            key={`${i} ${line}`}
            className={`block px-2 ${change ? 'bg-route/12' : ''}`}
            title={change ? `was ${JSON.stringify(change.from)}` : undefined}
          >
            <span aria-hidden="true" className="inline-block w-4 text-route">
              {change ? '+' : ''}
            </span>
            {code > 0 ? (
              <>
                {line.slice(0, code)}
                <span className="text-ink-soft">{line.slice(code)}</span>
              </>
            ) : (
              line || ' '
            )}
          </span>
        );
      })}
    </pre>
  );
}

/** A file as it is. */
export function PlainText({ text, wraps = false }: { text: string; wraps?: boolean }) {
  return (
    <pre
      data-testid="file-text"
      tabIndex={0}
      className={`digits mt-2 min-h-0 flex-1 overflow-auto border border-rule bg-sheet px-3 py-2 text-[13px] leading-[19px] ${wraps ? 'whitespace-pre-wrap' : ''}`}
    >
      {text}
    </pre>
  );
}
