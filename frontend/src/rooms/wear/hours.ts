/** "25 min", "4 h", "4 h 30 min". */
export function after(minutes: number): string {
  const whole = Math.round(minutes);
  if (whole < 60) return `${whole} min`;
  return whole % 60 ? `${Math.floor(whole / 60)} h ${whole % 60} min` : `${whole / 60} h`;
}
