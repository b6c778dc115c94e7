import type { Step } from '../../api/client';
import type { Shortcut } from '../../parts/shortcuts.svelte';
import { navigate } from '../../router';
import type { Moving } from './moving.svelte';
import type { WorkbenchState } from './workbench.svelte';

interface Asked {
  /** The plan that is open when a key is pressed. */
  bench: () => WorkbenchState;
  moving: () => Moving;
  /** Opens one of the room's dialogs by its name. */
  show: (name: string) => void;
  toggleShow: () => void;
}

/** The keys of the Layer room. */
export function layerKeys({ bench, moving, show, toggleShow }: Asked): Shortcut[] {
  const onStep = (run: (step: Step) => unknown) => () => {
    const step = bench().stage.step;
    if (step) void run(step);
  };
  return [
    { keys: 'ArrowRight', does: 'Next layer', run: () => bench().stage.choose(bench().stage.at + 1) },
    { keys: 'ArrowLeft', does: 'Layer before', run: () => bench().stage.choose(bench().stage.at - 1) },
    { keys: 'Home', does: 'Bare skin', run: () => bench().stage.choose(-1) },
    { keys: 'End', does: 'Finished base', run: () => bench().stage.choose(Infinity) },
    {
      keys: 'Alt+ArrowUp',
      does: 'Step earlier',
      run: onStep((step) => bench().doc.move(step, -1)),
    },
    {
      keys: 'Alt+ArrowDown',
      does: 'Step later',
      run: onStep((step) => bench().doc.move(step, 1)),
    },
    {
      keys: 'x',
      does: 'Pick the step up, to place it elsewhere',
      run: onStep((step) => moving().pick(step, true)),
    },
    {
      keys: 'Delete',
      does: 'Take the step out',
      run: onStep((step) => bench().doc.edit([{ edit: 'remove', step: step.id }])),
    },
    { keys: 'c', does: 'Which corrector here?', run: () => show('corrector') },
    { keys: 'm', does: 'Mix a shade', run: () => show('well') },
    { keys: 's', does: 'Which school here?', run: () => show('schools') },
    { keys: 'w', does: 'Wishes and ways of working', run: () => show('wishes') },
    { keys: 'a', does: 'Add a step', run: () => show('add') },
    { keys: 'v', does: 'Versions of this plan', run: () => show('versions') },
    {
      keys: 'g',
      does: 'Weigh candidates',
      run: () => void navigate('/weigh/:id', { params: { id: bench().id } }),
    },
    {
      keys: 't',
      does: 'The timetable of this plan',
      run: () => void navigate('/pace/:id', { params: { id: bench().id } }),
    },
    { keys: 'd', does: 'Subtract from stock', run: () => show('run') },
    { keys: 'p', does: 'Show it to a class', run: () => toggleShow() },
    { keys: 'Ctrl+Z', does: 'Undo', run: () => void bench().doc.undo() },
    { keys: 'Ctrl+Y', does: 'Redo', run: () => void bench().doc.redo() },
  ];
}
