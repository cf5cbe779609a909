/** Minutes as they are read: to the tenth below an hour, else hours and minutes. */
export function minutesWords(minutes: number): string {
  if (minutes < 59.95) return `${Math.round(minutes * 10) / 10} min`;
  const whole = Math.round(minutes);
  return `${Math.floor(whole / 60)} h ${whole % 60} min`;
}
