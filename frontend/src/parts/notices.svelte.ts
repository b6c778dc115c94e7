import { reason } from './reason';
export interface Notice {
  id: number;
  text: string;
  grave: boolean;
}

/** Short messages: what was done, or why something was refused. Grave ones stay until dismissed. */
class Notices {
  shown = $state<Notice[]>([]);
  #next = 1;

  say(text: string, grave = false) {
    const notice = { id: this.#next++, text, grave };
    this.shown = [...this.shown.slice(-2), notice];
    if (!grave) setTimeout(() => this.dismiss(notice.id), 5000);
  }

  refuse(error: unknown) {
    this.say(reason(error), true);
  }

  dismiss(id: number) {
    this.shown = this.shown.filter((notice) => notice.id !== id);
  }
}

export const notices = new Notices();
