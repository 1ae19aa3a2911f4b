import { figureList } from '../figures/figureList.ts';
import { showFigure } from '../figures/showFigure.ts';
import type { TuningWork } from '../tuning/context.ts';
import { type Command, isText } from '../work/commands.ts';
import type { TapeActions } from './tapes.ts';

/** Commands of the bench beyond those of every screen. None of the keys drives. */
export function benchCommands({ editing, drive, $calipers }: TuningWork, tapes: TapeActions): Command[] {
  return [
    { id: 'flip', label: 'Flip between now and before', key: 'B', run: () => editing.flip() },
    { id: 'loop', label: 'Loop the drive, or drive on', key: 'L', run: () => (drive.$loop.get() ? tapes.drive() : tapes.loop()) },
    {
      id: 'play',
      label: 'Play or hold the tape',
      key: 'P',
      run: () => {
        const loop = drive.$loop.get();
        loop?.$playing.set(!loop.$playing.get());
      },
    },
    { id: 'keep-tape', label: 'Keep tape', key: '', run: tapes.keep },
    { id: 'edit-tape', label: 'Edit the hands of the tape', key: 'E', run: tapes.edit },
    { id: 'write-tape', label: 'Write a tape by hand', key: '', run: tapes.write },
    { id: 'earlier', label: 'Loop the drive before the restart', key: '', run: tapes.earlier },
    { id: 'bring-tape', label: 'Import a tape file', key: '', run: tapes.importFile },
    { id: 'take-tape', label: 'Export the tape', key: '', run: tapes.exportFile },
    { id: 'start-here', label: 'Move the start here', key: 'N', run: () => drive.startHere(true) },
    { id: 'measured', label: 'Clear calipers', key: 'M', run: () => $calipers.set(null) },
    {
      id: 'through',
      label: 'Through the camera',
      key: 'V',
      run: () => drive.$throughCamera.set(!drive.$throughCamera.get()),
    },
    ...figureList.map(({ id, number, title }) => ({
      id: `figure-${id}`,
      label: `Show figure: ${title}`,
      key: number < 10 ? String(number) : number === 10 ? '0' : 'Shift+0',
      run: () => showFigure(id),
    })),
  ];
}

/** Keys that try a multiple of the last focused number while they are held. */
const trialFactors: Readonly<Record<string, number>> = { Minus: 0.25, BracketLeft: 0.5, BracketRight: 2, Equal: 4 };

/** Tries extremes: a held key multiplies the number, letting go gives it back. */
export function listenToTrials({ editing }: TuningWork): () => void {
  const press = (event: KeyboardEvent) => {
    const factor = trialFactors[event.code];
    if (factor === undefined || isText(event.target) || event.ctrlKey || event.metaKey || event.altKey || event.repeat) return;
    event.preventDefault();
    editing.$trial.set({ path: editing.$subject.get(), factor });
  };
  const end = () => editing.$trial.set(null);
  const lift = (event: KeyboardEvent) => {
    if (trialFactors[event.code] !== undefined) end();
  };
  window.addEventListener('keydown', press);
  window.addEventListener('keyup', lift);
  window.addEventListener('blur', end);
  return () => {
    end();
    window.removeEventListener('keydown', press);
    window.removeEventListener('keyup', lift);
    window.removeEventListener('blur', end);
  };
}
