/** Loaded when it is opened; here, since the router takes a room whose own source loads something for one to be loaded. */
export const newSitterDialog = () => import('./NewSitterDialog.svelte');
