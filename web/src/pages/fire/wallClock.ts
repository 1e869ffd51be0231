// wallClock is so many seconds after an instant as the kitchen's clock shows it: the instant is written by that clock.
export function wallClock(origin: string, seconds: number): string {
  const at = new Date(`${origin.slice(0, 19)}Z`);
  at.setSeconds(at.getSeconds() + Math.round(seconds));
  return at.toISOString().slice(11, 16);
}
