import { useStore } from '@nanostores/react';
import { documentKinds, faultText, type Ground, type GroundFormat, groundFormats, type Imported, type Reading } from '@zygopod/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { drawGround } from '../chart/drawGround.ts';
import { readInks } from '../chart/theme.ts';
import { fit } from '../chart/view.ts';
import { Overlay } from '../controls/Overlay.tsx';
import { sizeWords } from '../work/saving/refusalWords.ts';
import { readFile, writeGround } from './exchanger.ts';
import { useGround } from './groundWork.ts';

/** Reads a file, shows what it would be, and lays it in place of this ground or beside it. */
export function ImportGround({
  first,
  createNew,
  close,
}: {
  first: File | null;
  createNew(ground: Ground): Promise<string | null>;
  close(): void;
}) {
  const { steps } = useGround();
  const [file, setFile] = useState<File | null>(first);
  const [cell, setCell] = useState('32');
  const [threshold, setThreshold] = useState(0.5);
  const [reading, setReading] = useState<Reading<Imported> | null>(null);
  const [busy, setBusy] = useState(false);
  const [why, setWhy] = useState<string | null>(null);
  const side = Number(cell);
  const sideIsGood = side >= 0.01 && side <= 1e5;
  useEffect(() => {
    if (!file || !sideIsGood) return;
    let current = true;
    setBusy(true);
    setWhy(null);
    readFile(file, { cell: side, threshold })
      .then((read) => current && setReading(read))
      .catch((error: unknown) => current && setWhy(error instanceof Error ? error.message : String(error)))
      .finally(() => current && setBusy(false));
    return () => {
      current = false;
    };
  }, [file, side, sideIsGood, threshold]);
  const read = reading?.ok ? reading.value.ground : null;
  const size = useMemo(() => (read ? savedSize(read) : 0), [read]);
  // What the server wouldn't take is refused here, before anything is changed.
  const ground = size > documentKinds.ground.largest ? null : read;
  const picture = file !== null && /\.png$/i.test(file.name);
  return (
    <Overlay title="Import a ground" close={close}>
      <input
        type="file"
        aria-label="File"
        accept=".json,.svg,.csv,.map,.txt,.png"
        className="w-full text-ink-soft file:mr-3 file:border file:border-ink file:bg-sheet file:px-3 file:py-1 file:text-ink"
        onChange={(event) => {
          setReading(null);
          setFile(event.target.files?.[0] ?? null);
        }}
      />
      <p className="mt-1.5 text-xs text-ink-soft">
        Our JSON, an SVG drawing, a CSV grid, an octile grid, or a PNG whose dark pixels are solid.
      </p>
      <div className="mt-2 flex gap-6">
        <label className="flex items-baseline gap-2">
          Side of a cell
          <input
            aria-invalid={!sideIsGood}
            className="digits w-14 border-b border-ink bg-transparent text-right"
            value={cell}
            onChange={(event) => setCell(event.target.value)}
          />
        </label>
        {picture && (
          <label className="flex items-center gap-2">
            Solid below
            <input
              type="range"
              min="0.05"
              max="0.95"
              step="0.05"
              value={threshold}
              className="w-24 accent-(--now)"
              onChange={(event) => setThreshold(Number(event.target.value))}
            />
            <span className="digits">{Math.round(threshold * 100)} %</span>
          </label>
        )}
      </div>
      {!sideIsGood && <p className="mt-1 text-now">▲ The side of a cell is a number from 0.01 to 100,000.</p>}
      {busy && <p className="mt-3 text-ink-soft">Reading …</p>}
      {why && (
        <p role="alert" className="mt-3 text-now">
          ▲ {why}
        </p>
      )}
      {reading && !reading.ok && (
        <div role="alert" className="mt-3 text-now">
          <p className="font-semibold">▲ This file cannot be read. Nothing has been changed.</p>
          <ul className="digits mt-1 text-xs">
            {reading.faults.slice(0, 6).map((fault, i) => (
              <li key={i}>{faultText(fault)}</li>
            ))}
          </ul>
        </div>
      )}
      {size > documentKinds.ground.largest && (
        <p role="alert" className="mt-3 text-now">
          ▲ This ground has {sizeWords(size)} as a file, and {sizeWords(documentKinds.ground.largest)} can be saved at most. Use a smaller
          picture or fewer cells.
        </p>
      )}
      {ground && reading?.ok && (
        <>
          <Preview ground={ground} />
          <p className="digits mt-1 text-xs" data-testid="import-preview">
            {ground.size.width} × {ground.size.height} {ground.unit},{' '}
            {ground.cells.length > 0 ? `${ground.cells[0]?.length} × ${ground.cells.length} cells` : 'no cells'}, {ground.walls.length}{' '}
            {ground.walls.length === 1 ? 'wall' : 'walls'}
          </p>
          {reading.value.remarks.map((remark) => (
            <p key={remark} className="mt-0.5 text-xs text-stamina-ink">
              ◆ {remark}.
            </p>
          ))}
        </>
      )}
      <div className="mt-4 flex justify-end gap-4">
        <button type="button" className="text-ink-soft" onClick={close}>
          Not now
        </button>
        <button
          type="button"
          disabled={!ground}
          className="border border-ink px-3 py-1 font-semibold disabled:opacity-45"
          onClick={async () => {
            if (!ground) return;
            setWhy(await createNew(ground));
          }}
        >
          Add as a new ground
        </button>
        <button
          type="button"
          disabled={!ground}
          className="bg-ink px-3 py-1 font-semibold text-sheet disabled:opacity-45"
          onClick={() => {
            if (ground) steps.replace({ ...ground, name: steps.$now.get().name }, 'import');
            close();
          }}
        >
          Replace this ground
        </button>
      </div>
    </Overlay>
  );
}

/** Bytes of a ground as it is sent to be saved. */
const savedSize = (ground: Ground) => new Blob([JSON.stringify({ file: ground, base: 1e9, note: '' })]).size;

function Preview({ ground }: { ground: Ground }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const ctx = canvas.current?.getContext('2d');
    if (!ctx) return;
    const [width, height] = [404, 200];
    ctx.setTransform(2, 0, 0, 2, 0, 0);
    drawGround(ctx, ground, fit(ground.size, { width, height }), width, height, readInks(), { grid: false, frame: true });
  }, [ground]);
  return (
    <canvas
      ref={canvas}
      width="808"
      height="400"
      className="mt-3 w-full border border-rule"
      role="img"
      aria-label={`${ground.name}, as it would be`}
    />
  );
}

/** Writes this ground in a format, and says what that format cannot hold before it is saved. */
export function ExportGround({ close }: { close(): void }) {
  const { steps } = useGround();
  const ground = useStore(steps.$now);
  const [format, setFormat] = useState<GroundFormat>('json');
  const [exported, setExported] = useState<{ format: GroundFormat; lost: string[]; address: string; size: number } | null>(null);
  useEffect(() => {
    let address = '';
    let current = true;
    void writeGround(ground, format).then(({ content, lost }) => {
      if (!current) return;
      const blob = new Blob([content as BlobPart]);
      address = URL.createObjectURL(blob);
      setExported({ format, lost, address, size: blob.size });
    });
    return () => {
      current = false;
      if (address) URL.revokeObjectURL(address);
    };
  }, [ground, format]);
  const ending = groundFormats.find(({ id }) => id === format)?.ending ?? 'json';
  const fileName = `${
    ground.name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '') || 'ground'
  }.${ending}`;
  return (
    <Overlay title="Export the ground" close={close}>
      <fieldset>
        <legend className="sr-only">Format</legend>
        {groundFormats.map(({ id, title }) => (
          <label key={id} className="flex items-center gap-2 border-b border-rule/60 py-1">
            <input type="radio" name="format" checked={format === id} onChange={() => setFormat(id)} />
            {title}
          </label>
        ))}
      </fieldset>
      <div className="mt-3 min-h-10 text-xs" data-testid="export-lost">
        {exported?.format !== format ? (
          <p className="text-ink-soft">Writing …</p>
        ) : exported.lost.length === 0 ? (
          <p className="text-route">✓ Nothing is lost.</p>
        ) : (
          <p className="text-stamina-ink">◆ Lost in this format: {exported.lost.join(', ')}.</p>
        )}
      </div>
      <div className="mt-3 flex justify-end gap-4">
        <button type="button" className="text-ink-soft" onClick={close}>
          Not now
        </button>
        <a
          href={exported?.address}
          download={fileName}
          aria-disabled={exported?.format !== format}
          className="bg-ink px-3 py-1 font-semibold text-sheet aria-disabled:opacity-45"
          onClick={() => setTimeout(close, 300)}
        >
          Save {fileName}
        </a>
      </div>
    </Overlay>
  );
}
