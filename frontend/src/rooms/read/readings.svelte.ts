import { api, ask, type Face, type Lab, type SkinPlace, type Zone } from '../../api/client';
import { notices } from '../../parts/notices.svelte';
import { sent } from '../../parts/sending';
import { today } from '../../parts/today';
import type { ReadState } from './read.svelte';

/** Dated readings of a face: by instrument, by eye, from pictures and from files. */
export class Readings {
  constructor(private readonly read: ReadState) {}

  /** A typed colour as it is understood, or null where it was refused. */
  async understand(text: string): Promise<{ lab: number[]; hex: string } | null> {
    try {
      return await ask(api.POST('/api/colour', { body: { text } }));
    } catch (error) {
      notices.refuse(error);
      return null;
    }
  }

  /** Keep a colour of a place as read today. */
  async saveColour(
    place: SkinPlace,
    lab: Lab,
    source: 'typed' | 'reader' | 'eye' | 'stripe',
    takes = 1,
    spread: number | null = null,
  ) {
    await this.save([{ day: today(), place, what: 'colour', lab, takes, spread, source }]);
  }

  async pinProbe(zone: Zone, what: 'oil' | 'moisture', value: number) {
    await this.save([{ day: today(), place: zone, what, value, source: 'probe' }]);
  }

  /** Keep readings; whether they are. */
  save(readings: object[]): Promise<boolean> {
    return this.#answer(
      () => api.POST('/api/sitters/{id}/readings', { ...this.#here, body: { readings: readings as never } }),
      'Kept; the newest reading of a place counts.',
    );
  }

  async remove(reading: number) {
    await this.#answer(
      () =>
        api.DELETE('/api/sitters/{id}/readings/{reading}', {
          params: { path: { id: this.read.id, reading } },
        }),
      'Taken out.',
    );
  }

  /** Keep a file of readings that was looked at. */
  async take(file: File) {
    const body = await sent(file, 'text/csv');
    await this.#answer(
      () =>
        api.POST('/api/sitters/{id}/readings/table', {
          params: { path: { id: this.read.id }, query: { leave_out: true } },
          ...body,
        }),
      `${file.name} is in.`,
    );
  }

  get #here() {
    return { params: { path: { id: this.read.id } } };
  }

  async #answer(
    call: () => Promise<{ data?: Face; error?: unknown; response: Response }>,
    says: string,
  ): Promise<boolean> {
    try {
      await this.read.takeAnswer(() => ask(call()));
      notices.say(says);
      return true;
    } catch (error) {
      notices.refuse(error);
      return false;
    }
  }
}
