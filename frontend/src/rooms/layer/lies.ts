/** How a film lies, told by shape: the core's first letters of wet, tacky, set and powdered. */
export const LIES = {
  w: { words: 'wet', path: 'M-6 0 q1.5 -4 3 0 t3 0 t3 0 t3 0' },
  t: { words: 'tacky', path: 'M-6 0 h1.2 M-0.6 0 h1.2 M4.8 0 h1.2' },
  s: { words: 'set', path: 'M-6 0 h12' },
  p: { words: 'powdered', path: 'M-5 0 h.1 M0 0 h.1 M5 0 h.1' },
};

export function lying(letter: string | undefined) {
  return letter && Object.hasOwn(LIES, letter) ? LIES[letter as keyof typeof LIES] : null;
}
