/** What a run lets be heard: nothing, a calm chime, or a spoken line. Kept in this browser. */
export type Heard = 'off' | 'chime' | 'spoken';
export const HEARD: { id: Heard; words: string }[] = [
  { id: 'off', words: 'Silent' },
  { id: 'chime', words: 'Chime' },
  { id: 'spoken', words: 'Spoken' },
];
const CHOSEN_KEY = 'nabrel run sound';

export function heard(): Heard {
  const stored = localStorage.getItem(CHOSEN_KEY);
  return HEARD.find((each) => each.id === stored)?.id ?? 'chime';
}

export function saveHeard(how: Heard) {
  localStorage.setItem(CHOSEN_KEY, how);
}

let context: AudioContext | null = null;

/** Two soft tones, the second a third lower; nothing where the browser has no sound. */
function chime() {
  if (typeof AudioContext === 'undefined') return;
  context ??= new AudioContext();
  [660, 528].forEach((pitch, place) => {
    const tone = context!.createOscillator();
    const loudness = context!.createGain();
    const from = context!.currentTime + place * 0.35;
    tone.frequency.value = pitch;
    loudness.gain.setValueAtTime(0, from);
    loudness.gain.linearRampToValueAtTime(0.12, from + 0.03);
    loudness.gain.exponentialRampToValueAtTime(0.001, from + 0.9);
    tone.connect(loudness).connect(context!.destination);
    tone.start(from);
    tone.stop(from + 1);
  });
}

/** Let a line be heard as chosen; spoken where the browser speaks, else by the chime. */
export function sound(line: string, how: Heard) {
  if (how === 'off') return;
  if (how === 'spoken' && 'speechSynthesis' in window) {
    window.speechSynthesis.cancel();
    window.speechSynthesis.speak(new SpeechSynthesisUtterance(line));
  } else {
    try {
      chime();
    } catch {
      // A browser may refuse sound before the first tap: the timers are seen all the same.
    }
  }
}
