import type { Block } from '../../api/client';
import { clock } from './clock';
import { dueAt, type Bound, type FullLog } from './run-log';
import { heard, saveHeard, sound, type Heard } from './sounds';

/** So many seconds before a longest wait runs out it is heard. */
const WARN_S = 15;

/** What is rung for: the block in hand and when it may begin, what is still open, and the time. */
export interface Moment {
  block: Block;
  ready: Bound | null;
  turned: number;
  open: readonly Block[];
  log: FullLog;
  now: number;
}

/** What of a run is heard: each wait that is over, and each that is about to run out, once. */
export class Bell {
  heard = $state<Heard>(heard());
  #rang: string[] = [];

  hear(how: Heard) {
    this.heard = how;
    saveHeard(how);
    sound('Sound is on.', how);
  }

  /** Said aloud where the run speaks; a chime alone would say nothing here. */
  announce(block: Block) {
    if (this.heard === 'spoken') sound(`${block.title} ${block.where}. ${block.cues.join(' ')}`, this.heard);
  }

  ring({ block, ready, turned, open, log, now }: Moment) {
    if (ready && ready.at > turned && now >= ready.at)
      this.#once(`ready ${block.id} ${ready.at}`, `Ready: ${block.title}.`);
    const soon = open
      .map((each) => ({ each, due: dueAt(each, log) }))
      .find((row) => row.due && row.due.at - WARN_S <= now && now <= row.due.at);
    if (soon?.due)
      this.#once(
        `due ${soon.each.id} ${soon.due.at}`,
        `${soon.each.title} within ${clock(soon.due.at - now)}.`,
      );
  }

  #once(name: string, line: string) {
    if (this.#rang.includes(name)) return;
    this.#rang.push(name);
    sound(line, this.heard);
  }
}
