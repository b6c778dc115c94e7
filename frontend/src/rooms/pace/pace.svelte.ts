import { api, ask, type Score, type Tool } from '../../api/client';
import { inHand } from '../../parts/in-hand.svelte';
import { pacesOf } from '../../parts/paces';
import { words } from '../../parts/vocabulary.svelte';

/** Minutes and seconds: "30:30". */
export function clock(seconds: number): string {
  const whole = Math.abs(Math.round(seconds));
  const text = `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`;
  return seconds < 0 ? `−${text}` : text;
}

/** The time of day, so many seconds after a start such as "09:10"; empty without one. */
export function timeOfDay(start: string, seconds: number): string {
  const [hours, minutes] = start.split(':').map(Number);
  if (hours === undefined || minutes === undefined || Number.isNaN(hours + minutes)) return '';
  const at = Math.floor((((hours * 60 + minutes) * 60 + seconds) / 60 + 1440) % 1440);
  return `${String(Math.floor(at / 60)).padStart(2, '0')}:${String(at % 60).padStart(2, '0')}`;
}

/** The state of the Pace room: whose hands, and the timetable that the core found for them. */
export class PaceState {
  score = $state.raw<Score | null>(null);
  failed = $state<string | null>(null);
  busy = $state(false);
  pace = $state('1');
  hands = $state<'1' | '2'>('1');
  spare = $state.raw<Tool[]>([]);
  start = $state('');
  /** The step that is pointed at, in every lane and in the list. */
  pointed = $state<string | null>(null);
  #asked = 0;

  constructor(readonly id: string) {}

  readonly paces = $derived(pacesOf(this.score?.student_pace ?? 2));
  readonly table = $derived(this.score?.timetable ?? null);

  async find() {
    const asked = ++this.#asked;
    this.busy = true;
    try {
      await words.load();
      const found = await ask(
        api.POST('/api/sequences/{id}/timetable', {
          params: { path: { id: this.id } },
          body: { pace: Number(this.pace), hands: Number(this.hands), spare: this.spare },
        }),
      );
      // A slower answer to an older question does not replace a newer one.
      if (asked !== this.#asked) return;
      this.score = found;
      this.start ||= found.start ?? '';
      this.failed = null;
      inHand.takePlan(
        { id: found.sitter_id, name: found.nickname },
        { id: found.plan_id, name: found.title },
      );
    } catch (error) {
      if (asked === this.#asked) this.failed = error instanceof Error ? error.message : String(error);
    } finally {
      if (asked === this.#asked) this.busy = false;
    }
  }

  /** Ask again for other hands or tools. */
  change(fields: { pace?: string; hands?: '1' | '2'; spare?: Tool[] }) {
    this.pace = fields.pace ?? this.pace;
    this.hands = fields.hands ?? this.hands;
    this.spare = fields.spare ?? this.spare;
    return this.find();
  }
}
