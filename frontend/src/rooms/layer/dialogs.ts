import type RunDialog from './RunDialog.svelte';

/** The dialogs of the Layer room, by the name the address has for them: each is fetched when it is asked for. */
export const DIALOGS: Record<string, () => Promise<{ default: typeof RunDialog }>> = {
  corrector: () => import('./CorrectorDialog.svelte'),
  well: () => import('./WellDialog.svelte'),
  schools: () => import('./SchoolsDialog.svelte'),
  wishes: () => import('./WishesDialog.svelte'),
  add: () => import('./AddDialog.svelte'),
  versions: () => import('./VersionsDialog.svelte'),
  run: () => import('./RunDialog.svelte'),
};
