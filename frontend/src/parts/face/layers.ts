/** Layers of a face that only some rooms show: each is fetched when it is first wanted, since every room shows a face. */
export const layers = {
  cast: async () => (await import('./Cast.svelte')).default,
  places: async () => (await import('./Places.svelte')).default,
  measures: async () => (await import('./Measures.svelte')).default,
  grades: async () => (await import('./Grades.svelte')).default,
  strokes: async () => (await import('./Strokes.svelte')).default,
  paint: async () => (await import('./PaintZones.svelte')).default,
  move: async () => (await import('./MoveStrokes.svelte')).default,
};
