import { useEffect, useRef } from "react";

/** Two short tones, made on the spot. */
function chime(): void {
  const audio = new AudioContext();
  for (const [at, pitch] of [
    [0, 660],
    [0.22, 880],
  ] as const) {
    const tone = audio.createOscillator();
    const level = audio.createGain();
    tone.frequency.value = pitch;
    level.gain.setValueAtTime(0.2, audio.currentTime + at);
    level.gain.exponentialRampToValueAtTime(0.001, audio.currentTime + at + 0.2);
    tone.connect(level).connect(audio.destination);
    tone.start(audio.currentTime + at);
    tone.stop(audio.currentTime + at + 0.22);
  }
  setTimeout(() => void audio.close(), 900);
}

/** Calls the person when hands are needed: a sound, and a notification where the browser may show one. */
export function useCall(words: string | null, enabled: boolean): void {
  const last = useRef<string | null>(null);
  useEffect(() => {
    const fresh = words !== null && words !== last.current;
    last.current = words;
    if (!fresh || !enabled || words === null) return undefined;
    try {
      chime();
    } catch {
      // No sound on this machine; the words are on the page.
    }
    const shown =
      "Notification" in window && Notification.permission === "granted"
        ? new Notification("Algidus", { body: words })
        : null;
    return () => shown?.close();
  }, [words, enabled]);
}
