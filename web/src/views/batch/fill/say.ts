/** The figure and the next step, spoken by the browser; nothing is fetched for it. */
export function say(words: string) {
  if (!('speechSynthesis' in window)) return;
  window.speechSynthesis.cancel();
  window.speechSynthesis.speak(new SpeechSynthesisUtterance(words));
}

let context: AudioContext | null = null;

/** Let tones be heard: browsers allow it only after somebody has touched the page. */
export function allowTones() {
  context ??= new AudioContext();
  if (context.state === 'suspended') void context.resume().catch(() => undefined);
}

/** A short tone: high for done, low for too much. */
export function tone(kind: 'done' | 'over') {
  if (context?.state !== 'running') return;
  const at = context.currentTime;
  const sound = context.createOscillator();
  const gain = context.createGain();
  sound.frequency.value = kind === 'done' ? 988 : 220;
  gain.gain.setValueAtTime(0.4, at);
  gain.gain.exponentialRampToValueAtTime(0.001, at + 0.25);
  sound.connect(gain).connect(context.destination);
  sound.start(at);
  sound.stop(at + 0.26);
}
