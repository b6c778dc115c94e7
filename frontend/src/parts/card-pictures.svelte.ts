import { api, ask, type CardPicture, type CardSize, type Schemas } from '../api/client';
import { sent } from './sending';
import { tried } from './tried';
import { reason } from './reason';

/** One picture of a card: on its way, read, or refused with what to do. */
export interface Taken {
  number: number;
  file: File;
  own: boolean;
  found: CardPicture | null;
  refused: string;
}

/** Pictures of a card that were chosen, taken or dropped here, in turn; nothing of them is kept. */
export class CardPictures {
  size = $state<CardSize>('kit');
  all = $state.raw<readonly Taken[]>([]);
  busy = $state(0);
  samples = $state.raw<Schemas['SamplesWire'] | null>(null);
  #next = 1;

  constructor(
    size: CardSize,
    readonly onread: () => void,
  ) {
    this.size = size;
    void tried(ask(api.GET('/api/card/samples'))).then((found) => (this.samples = found));
  }

  get read(): readonly (Taken & { found: CardPicture })[] {
    return this.all.filter((each): each is Taken & { found: CardPicture } => each.found !== null);
  }

  /** Read files one after the other; ``own`` where they come from the camera here, and are nowhere else. */
  async take(files: Iterable<File>, own = false) {
    for (const file of files) {
      const number = this.#next++;
      this.all = [...this.all, { number, file, own, found: null, refused: '' }];
      this.busy += 1;
      let [found, refused]: [CardPicture | null, string] = [null, ''];
      try {
        found = await ask(
          api.POST('/api/card/picture', {
            params: { query: { size: this.size } },
            ...(await sent(file, 'application/octet-stream')),
          }),
        );
      } catch (error) {
        refused = reason(error);
      } finally {
        this.busy -= 1;
      }
      this.all = this.all.map((each) => (each.number === number ? { ...each, found, refused } : each));
      this.onread();
    }
  }

  leaveOut(number: number) {
    this.all = this.all.filter((each) => each.number !== number);
    this.onread();
  }

  /** Begin anew, for the other card: a picture of one is not read as the other. */
  resize(size: CardSize) {
    this.size = size;
    this.all = [];
    this.onread();
  }

  /** The printer was calibrated: what was read so far is read anew by it. */
  calibrated(samples: Schemas['SamplesWire']) {
    this.samples = samples;
    const files = this.all.map(({ file, own }) => ({ file, own }));
    this.all = [];
    this.onread();
    void (async () => {
      for (const { file, own } of files) await this.take([file], own);
    })();
  }

  async sample(address: string) {
    const answer = await tried(fetch(address).then((response) => response.blob()));
    if (answer) await this.take([new File([answer], address.split('/').at(-1) ?? 'sample')]);
  }
}
