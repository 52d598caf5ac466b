/** Ticks of a metronome. */

import { useCallback, useEffect, useRef } from "react";

export function useTicks() {
  const audio = useRef<AudioContext | null>(null);
  useEffect(() => () => void audio.current?.close(), []);
  return useCallback(() => {
    audio.current ??= new AudioContext();
    const context = audio.current;
    const tone = context.createOscillator();
    const level = context.createGain();
    tone.frequency.value = 880;
    level.gain.setValueAtTime(0.12, context.currentTime);
    level.gain.exponentialRampToValueAtTime(0.001, context.currentTime + 0.05);
    tone.connect(level).connect(context.destination);
    tone.start();
    tone.stop(context.currentTime + 0.06);
  }, []);
}
