import { useEffect, useRef, useState } from "react";

// Two sounds, made by the browser: one for something to fire, one for trouble. They are off until somebody switches them on at this screen:
// a browser plays nothing before it was touched.

const shelf = "sound";

// fresh are those of some things that were not there before.
export const fresh = (seen: ReadonlySet<string>, now: readonly string[]) => now.filter((x) => !seen.has(x));

let context: AudioContext | null = null;

// play sounds so many short tones, each at its pitch in hertz.
function play(pitches: readonly number[]) {
  context ??= new AudioContext();
  const from = context.currentTime + 0.02;
  pitches.forEach((hz, i) => {
    if (!context) return;
    const tone = context.createOscillator();
    const loud = context.createGain();
    const at = from + i * 0.18;
    tone.frequency.value = hz;
    loud.gain.setValueAtTime(0, at);
    loud.gain.linearRampToValueAtTime(0.4, at + 0.02);
    loud.gain.linearRampToValueAtTime(0, at + 0.15);
    tone.connect(loud).connect(context.destination);
    tone.start(at);
    tone.stop(at + 0.16);
  });
}

// useSound sounds when there is something new to fire, or in trouble, by what names them. on says whether it is switched on at this screen.
export function useSound(fire: readonly string[], trouble: readonly string[]) {
  const [on, setOn] = useState(window.localStorage.getItem(shelf) === "on");
  const seen = useRef<Set<string> | null>(null);
  const firing = fire.join("\n");
  const troubled = trouble.join("\n");
  useEffect(() => {
    const now = { fire: firing.split("\n").filter(Boolean), trouble: troubled.split("\n").filter(Boolean) };
    const was = seen.current;
    seen.current = new Set([...(was ?? []), ...now.fire, ...now.trouble]);
    if (!was || !on) return; // what was there when the screen was opened is not new
    if (fresh(was, now.trouble).length > 0) play([440, 330, 440]);
    else if (fresh(was, now.fire).length > 0) play([880, 1175]);
  }, [firing, troubled, on]);
  const toggle = () => {
    window.localStorage.setItem(shelf, on ? "off" : "on");
    if (!on) play([880, 1175]); // so that it is heard how it sounds
    setOn(!on);
  };
  return { on, toggle };
}
