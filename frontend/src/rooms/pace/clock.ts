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
