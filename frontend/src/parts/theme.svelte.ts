const KEY = 'nabrel-theme';
type Room = 'light' | 'dark';

function usual(): Room {
  const stored = localStorage.getItem(KEY);
  if (stored === 'light' || stored === 'dark') return stored;
  return window.matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light';
}

/** Which room colours are judged in: light or dark, kept on this machine. */
class Theme {
  room = $state<Room>(usual());

  apply() {
    document.documentElement.dataset.theme = this.room;
  }

  switch() {
    this.room = this.room === 'light' ? 'dark' : 'light';
    localStorage.setItem(KEY, this.room);
    this.apply();
  }
}

export const theme = new Theme();
